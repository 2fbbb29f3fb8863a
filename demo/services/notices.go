// Package notices sends harbour notices when a surge is foretold.
package notices

import (
	"context"
	"fmt"
	"time"
)

// Notice is one message to a harbour.
type Notice struct {
	Station string
	Level   float64
	Until time.Time
}

type Sender interface {
	Send(ctx context.Context, n Notice) error
}

const retries = 3

// region Sending

// SendAll sends notices one by one and stops at the first that fails for good.
func SendAll(ctx context.Context, s Sender, all []Notice) (sent int, err error) {
	for _, n := range all {
		for try := 0; try < retries; try++ {
			if err = s.Send(ctx, n); err == nil { break }
			time.Sleep(time.Second << try)
		}
		if err != nil {
			return sent, fmt.Errorf("station %s: %w", n.Station, err)
		}
		sent++
	}
	return sent, nil
}

// endregion

func (n Notice) String() string { return fmt.Sprintf("%s at %.2f m until %s", n.Station, n.Level, n.Until) }
