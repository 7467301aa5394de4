package device

import (
	"context"
	"errors"
	"fmt"
	"math"
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/say"
	"ojime/internal/work/feed"
)

// Beats of a stand-in printer: the shortest time between two of its messages, and
// how often it asks for a job while there is none.
const (
	leastBeat = 100 * time.Millisecond
	askEvery  = time.Second
)

// printer is a stand-in of a masked or a laser machine: it asks for a print that is
// prepared for its machine, follows the timing model layer by layer at its speed,
// and obeys a pause, an end or a going on that was said at the bench.
type printer struct {
	*sender
	job    feed.Job
	layers int64 // as it counts them
	paused bool
	over   string
}

func (p *printer) run(ctx context.Context) error {
	if err := p.fetch(ctx); err != nil {
		return ended(err)
	}
	p.layers = int64(len(p.job.LayerS))
	if p.plan.has(Miscount) {
		p.layers += 12
	}
	stalls, cutFrom := int64(-1), int64(math.MaxInt64)
	n := int64(len(p.job.LayerS))
	if p.plan.has(Stall) {
		stalls = n/3 + p.chance.Int64N(max(1, n/3))
	}
	if p.plan.has(Disconnect) {
		cutFrom = n/4 + p.chance.Int64N(max(1, n/4))
	}
	if err := p.layer(ctx, 0, p.job.StartS); err != nil {
		return ended(err)
	}
	for i := int64(1); i <= n && p.over == ""; i++ {
		p.cut = i >= cutFrom && i < cutFrom+max(2, n/8)
		took := p.job.LayerS[i-1]
		if i == stalls {
			if _, err := p.say(ctx, "fault", i, "the layer does not end"); err != nil {
				return ended(err)
			}
			took *= 40
		}
		if err := p.layer(ctx, i, took); err != nil {
			return ended(err)
		}
	}
	p.cut = false
	if p.over == "" {
		if err := p.clock.Wait(ctx, p.scaled(p.job.EndS)); err != nil {
			return ended(err)
		}
		if _, err := p.say(ctx, "finished", n, ""); err != nil {
			return ended(err)
		}
	}
	return ended(p.flush(ctx))
}

// fetch waits until a print is prepared for the machine.
func (p *printer) fetch(ctx context.Context) error {
	for {
		job, err := p.link.Job(ctx)
		if err == nil {
			p.job = job
			return nil
		}
		if !errors.Is(err, bench.ErrNotFound) {
			return err
		}
		if _, err := p.tell(ctx, bench.DeviceMessage{Kind: "state", State: "idle"}); err != nil {
			return err
		}
		if err := p.clock.Wait(ctx, askEvery); err != nil {
			return err
		}
	}
}

func (p *printer) scaled(s float64) time.Duration {
	return time.Duration(s / p.plan.Speed * float64(time.Second))
}

// layer prints one layer: it says so, and waits out its time. Short layers are said
// no more often than the beat allows; a pause stops the time.
func (p *printer) layer(ctx context.Context, i int64, took float64) error {
	left := p.scaled(took)
	if left < leastBeat && i%p.stride() != 0 && i != int64(len(p.job.LayerS)) {
		return p.clock.Wait(ctx, left)
	}
	for {
		state, note := "printing", fmt.Sprintf("speed %s", say.Figures(p.plan.Speed, 6))
		if p.paused {
			state = "paused"
		}
		got, err := p.say(ctx, state, i, note)
		if err != nil {
			return err
		}
		p.obey(got)
		if p.over != "" {
			return nil
		}
		beat := min(left, 2*time.Second)
		if p.paused {
			beat = 5 * leastBeat
		}
		if err := p.clock.Wait(ctx, beat); err != nil {
			return err
		}
		if !p.paused {
			if left -= beat; left <= 0 {
				return nil
			}
		}
	}
}

// stride is every how many layers a quick print is told of.
func (p *printer) stride() int64 {
	mean := p.scaled(p.job.LayerS[len(p.job.LayerS)/2])
	return max(1, int64(leastBeat/max(time.Microsecond, mean)))
}

// obey does what was said at the bench: a print that is no longer on hand there is
// over.
func (p *printer) obey(got feed.Received) {
	switch {
	case got.State == "":
	case got.State == "idle" || got.RunCode != p.job.Code:
		p.over = bench.Stopped
	default:
		p.paused = got.State == bench.Paused
	}
}

func (p *printer) say(ctx context.Context, state string, layer int64, note string) (feed.Received, error) {
	return p.tell(ctx, bench.DeviceMessage{Kind: "state", State: state, Layer: &layer, Value: quantity.Ptr(float64(p.layers)), Unit: "layers", Note: note})
}
