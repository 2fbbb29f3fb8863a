(let ([mark (string-append "\u1e" (getenv "VKNOT_MARK") " ")]
      [space (current-namespace)])
  (putenv "VKNOT_MARK" "")
  (define (run path name)
    (define text (call-with-input-file path (lambda (in) (let ([text (read-string 100000000 in)]) (if (eof-object? text) "" text)))))
    (define lang (regexp-match-positions #px"(?m:^#lang[ \t]+([^ \t\r\n]+)[^\r\n]*)" text))
    (define code
      (cond
        [lang
         (namespace-require (string->symbol (substring text (car (cadr lang)) (cdr (cadr lang)))))
         (string-append (substring text 0 (car (car lang))) (substring text (cdr (car lang))))]
        [else text]))
    (define in (open-input-string code))
    (port-count-lines! in)
    (let loop ()
      (define form (read-syntax name in))
      (unless (eof-object? form)
        (call-with-values
         (lambda () (eval (namespace-syntax-introduce form)))
         (lambda results (for ([result results]) (unless (void? result) (println result)))))
        (loop))))
  (let serve ()
    (define request (read-line))
    (unless (eof-object? request)
      (define parts (regexp-split #rx"\t" request))
      (define status
        (with-handlers ([(lambda (problem) (or (exn:fail? problem) (exn:break? problem)))
                         (lambda (problem)
                           ((error-display-handler) (exn-message problem) problem)
                           1)])
          (parameterize ([current-namespace space]) (run (car parts) (cadr parts)))
          0))
      (for ([out (list (current-output-port) (current-error-port))])
        (write-string (string-append mark (number->string status) "\n") out)
        (flush-output out))
      (serve))))
