;;; Which harbours get a notice.
(define-module (tidewatch notices)
  #:use-module (srfi srfi-1)
  #:export (notices))

#|
A notice goes to every harbour whose station
#| or one next to it |#
shows a surge.
|#
(define-record-type notice
  (make-notice harbour level)
  notice?
  (harbour notice-harbour)
  (level notice-level))

(define (notices surges neighbours)
  (let loop ((left surges) (found '()))
    (if (null? left)
        (reverse found)
        (loop (cdr left)
           `(,(make-notice (caar left) (cdar left)) ,@found)))))

(define-syntax when-surge
  (syntax-rules ()
    ((_ level body ...) (if (> level #e0.4) (begin body ...) #f))))
