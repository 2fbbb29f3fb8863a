#lang racket/base
(require racket/list racket/match)
(provide surge-level)

;; What a surge of this height means.
(define (surge-level metres #:threshold [threshold 0.4])
  (cond [(< metres threshold) 'quiet]
        [(< metres (* 2 threshold)) 'watch]
    [else 'evacuate]))

(struct station (name levels) #:transparent)

#;(define (old-rule s) (> s 1))

(define (worst stations)
  (for/fold ([found #f]) ([s (in-list stations)])
    (match s
      [(station name (list levels ...))
       (let ([high (apply max levels)])
         (if (or (not found) (> high (cdr found)))
             (cons name high) ; TODO: the earlier one wins a tie
             found))])))

(define notice #<<END
Harbour "Northhead": (watch)
END
  )
