1;
function vknot_serve ()
  mark = [char(30), getenv("VKNOT_MARK"), " "];
  unsetenv ("VKNOT_MARK");
  request = "";
  # Letter by letter, since a whole line is had no sooner than the next one begins; in one function, since code may clear the others.
  while (! isempty (letter = fread (stdin, 1, "uint8=>char")))
    if (letter != "\n")
      request = [request, letter];
      continue
    endif
    parts = strsplit (request, "\t");
    request = "";
    status = 0;
    try
      evalin ("base", sprintf ("source (\"%s\")", parts{1}));
    catch problem
      status = 1;
      fprintf (stderr, "error: %s\n", problem.message);
      for frame = problem.stack'
        if (! any (strcmp (frame.name, {"vknot_serve", "evalin", "source"})))
          fprintf (stderr, "    at line %d of %s\n", frame.line, frame.name);
        endif
      endfor
    end_try_catch
    fflush (stdout);
    fprintf (stderr, "%s%d\n", mark, status);
    fflush (stderr);
    printf ("%s%d\n", mark, status);
    fflush (stdout);
  endwhile
endfunction
vknot_serve ();
