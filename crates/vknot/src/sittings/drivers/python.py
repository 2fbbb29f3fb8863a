def _serve():
    import os
    import sys
    import traceback

    mark = "\x1e" + os.environ.pop("VKNOT_MARK") + " "
    requests = os.fdopen(os.dup(0), encoding="utf-8")
    os.dup2(os.open(os.devnull, os.O_RDONLY), 0)
    scope = globals()
    scope.pop("_serve")
    for request in requests:
        path, name = request.rstrip("\n").split("\t")
        status = 0
        try:
            with open(path, encoding="utf-8") as file:
                code = compile(file.read(), name, "exec")
            exec(code, scope)
        except SystemExit:
            raise
        except BaseException as error:
            status = 1
            # What runs the code is nothing to look at.
            inside = error.__traceback__.tb_next if error.__traceback__ else None
            traceback.print_exception(type(error), error, inside)
        for stream in (sys.stdout, sys.stderr):
            stream.write(mark + str(status) + "\n")
            stream.flush()


_serve()
