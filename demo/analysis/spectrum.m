## The spectrum of a day's readings.
1;

function s = spectrum (levels)
  # TODO: take the trend out first
  s = abs (fft (levels - mean (levels)));
  do
    s(end) = [];
  until (numel (s) <= 12)
  unwind_protect
    printf ("%d lines\n", numel (s));
  unwind_protect_cleanup
    fflush (stdout);
  end_unwind_protect
endfunction

if (nargin () > 0)
  disp (spectrum (load (argv (){1}))');
endif
