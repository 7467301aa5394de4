package device

import (
	"context"
	"errors"
	"fmt"
	"math/rand/v2"
	"slices"
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/work/feed"
)

// Link is the way from a device to the bench: over HTTP, or within the program.
type Link interface {
	Job(ctx context.Context) (feed.Job, error)
	Send(ctx context.Context, messages []bench.DeviceMessage) (feed.Received, error)
}

// Clock is the time that a stand-in lives in, so that tests need not wait.
type Clock struct {
	Now  func() time.Time
	Wait func(context.Context, time.Duration) error
}

// RealClock is the world's.
var RealClock = Clock{Now: time.Now, Wait: func(ctx context.Context, d time.Duration) error {
	select {
	case <-ctx.Done():
		return ctx.Err()
	case <-time.After(d):
		return nil
	}
}}

// Faults that a stand-in can be given.
const (
	Stall      = "stall"      // one layer takes forty times its time
	Disconnect = "disconnect" // some messages are lost, others come late and all at once
	Miscount   = "miscount"   // it counts twelve layers more than the plan
	Unruly     = "unruly"     // messages come twice and out of order
)

// Faults lists them.
var Faults = []string{Stall, Disconnect, Miscount, Unruly}

// Plan says how a stand-in behaves. Speed is how many times faster than time it
// prints; Seed fixes where its faults strike and how its readings scatter. Every
// is the time between two readings, and Value what an instrument measures.
type Plan struct {
	Kind   string        `json:"kind"`
	Speed  float64       `json:"speed"`
	Seed   uint64        `json:"seed"`
	Faults []string      `json:"faults"`
	Value  float64       `json:"value"`
	Every  time.Duration `json:"-"`
}

// Check says what makes no sense about a plan.
func (p Plan) Check() error {
	var c quantity.Checks
	c.OneOf("kind", p.Kind, "printer", "caliper", "scale", "thermometer")
	c.Above("speed", p.Speed)
	for i, f := range p.Faults {
		c.OneOf(fmt.Sprintf("faults[%d]", i), f, Faults...)
	}
	return c.Err()
}

func (p Plan) has(fault string) bool { return slices.Contains(p.Faults, fault) }

// Run behaves like the device until the context ends, the print is over, or the
// link refuses it.
func Run(ctx context.Context, link Link, clock Clock, plan Plan) error {
	if err := plan.Check(); err != nil {
		return err
	}
	s := &sender{link: link, clock: clock, plan: plan, chance: rand.New(rand.NewPCG(plan.Seed, 7)), session: fmt.Sprintf("s%x", clock.Now().UnixMilli())}
	if plan.Kind == "printer" {
		return (&printer{sender: s}).run(ctx)
	}
	return s.measure(ctx)
}

// sender counts messages and sends them, with the faults of the way.
type sender struct {
	link    Link
	clock   Clock
	plan    Plan
	chance  *rand.Rand
	session string
	seq     int64
	held    []bench.DeviceMessage
	cut     bool
}

// tell sends a message; a held one goes first or, on an unruly way, after it.
func (s *sender) tell(ctx context.Context, m bench.DeviceMessage) (feed.Received, error) {
	s.seq++
	m.Session, m.Seq, m.AtMS = s.session, s.seq, s.clock.Now().UnixMilli()
	if s.cut {
		if s.chance.IntN(3) > 0 { // a third is lost for good
			s.held = append(s.held, m)
		}
		return feed.Received{}, nil
	}
	out := append(s.held, m)
	s.held = nil
	if s.plan.has(Unruly) {
		switch s.chance.IntN(4) {
		case 0:
			out = append(out, m)
		case 1:
			s.held = []bench.DeviceMessage{m}
			if out = out[:len(out)-1]; len(out) == 0 {
				return feed.Received{}, nil
			}
		case 2:
			slices.Reverse(out)
		}
	}
	return s.link.Send(ctx, out)
}

// flush sends what is still held.
func (s *sender) flush(ctx context.Context) error {
	if len(s.held) == 0 {
		return nil
	}
	out := s.held
	s.held = nil
	_, err := s.link.Send(ctx, out)
	return err
}

// instruments are what stand-ins measure: unit, how far values scatter, and the
// step that they are shown in.
var instruments = map[string]struct {
	unit          string
	scatter, step float64
	usually       float64
}{
	"caliper":     {"mm", 0.015, 0.01, 12},
	"scale":       {"g", 0.3, 0.1, 640},
	"thermometer": {"c", 0.15, 0.1, 21.5},
}

func (s *sender) measure(ctx context.Context) error {
	of := instruments[s.plan.Kind]
	value := s.plan.Value
	if value == 0 {
		value = of.usually
	}
	every := s.plan.Every
	if every <= 0 {
		every = 2 * time.Second
	}
	for {
		steps := quantity.Round((value + s.chance.NormFloat64()*of.scatter) / of.step)
		shown := steps / quantity.Round(1/of.step)
		if _, err := s.tell(ctx, bench.DeviceMessage{Kind: "reading", Value: &shown, Unit: of.unit}); err != nil {
			return err
		}
		if err := s.clock.Wait(ctx, every); err != nil {
			return ended(errors.Join(err, s.flush(context.WithoutCancel(ctx))))
		}
	}
}

// ended makes nothing of an end that was asked for.
func ended(err error) error {
	if errors.Is(err, context.Canceled) {
		return nil
	}
	return err
}
