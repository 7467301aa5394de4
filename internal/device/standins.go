package device

import (
	"context"
	"fmt"
	"log/slog"
	"slices"
	"strings"
	"sync"

	"ojime/internal/bench"
	"ojime/internal/work"
	"ojime/internal/work/feed"
)

// StandIns are those started from the interface. They live as long as the program
// does; what they sent stays on record.
type StandIns struct {
	ctx   context.Context
	work  *work.Work
	take  func(context.Context, string, []bench.DeviceMessage) (feed.Received, error)
	clock Clock

	mu      sync.Mutex
	running []*Running
}

// Running is a stand-in at work, or one that ended, with why.
type Running struct {
	DeviceID string `json:"device_id"`
	Name     string `json:"name"`
	Plan     Plan   `json:"plan"`
	Ended    bool   `json:"ended"`
	Trouble  string `json:"trouble"`

	stop context.CancelFunc
}

// NewStandIns makes an empty bench of stand-ins that end with ctx.
func NewStandIns(ctx context.Context, w *work.Work, clock Clock, take func(context.Context, string, []bench.DeviceMessage) (feed.Received, error)) *StandIns {
	return &StandIns{ctx: ctx, work: w, take: take, clock: clock}
}

// List says which stand-ins run or ran, the newest first.
func (s *StandIns) List() []Running {
	s.mu.Lock()
	defer s.mu.Unlock()
	out := make([]Running, 0, len(s.running))
	for _, r := range slices.Backward(s.running) {
		out = append(out, *r)
	}
	return out
}

// mostStandIns bounds those that are at work at a time, and rememberedStandIns
// those that are listed.
const (
	mostStandIns       = 8
	rememberedStandIns = 50
)

func (s *StandIns) atWork() (n int) {
	s.mu.Lock()
	defer s.mu.Unlock()
	for _, r := range s.running {
		if !r.Ended {
			n++
		}
	}
	return n
}

// Start makes a device of the plan's kind that is marked as a stand-in, and sets
// it to work. A printer needs the machine that it speaks for.
func (s *StandIns) Start(ctx context.Context, plan Plan, machineID *string) (Running, error) {
	if err := plan.Check(); err != nil {
		return Running{}, err
	}
	if s.atWork() >= mostStandIns {
		return Running{}, fmt.Errorf("%d stand-ins are at work already; end one first: %w", mostStandIns, bench.ErrConflict)
	}
	made, err := s.work.Feed.MakeDevice(ctx, bench.Device{Name: "Stand-in " + plan.Kind, Kind: plan.Kind, MachineID: machineID, StandIn: true})
	if err != nil {
		return Running{}, err
	}
	running, stop := context.WithCancel(s.ctx)
	r := &Running{DeviceID: made.Device.ID, Name: made.Device.Name + " " + made.Device.Code, Plan: plan, stop: stop}
	s.mu.Lock()
	s.running = append(s.running, r)
	if extra := len(s.running) - rememberedStandIns; extra > 0 {
		s.running = slices.DeleteFunc(s.running, func(old *Running) bool { extra--; return old.Ended && extra >= 0 })
	}
	s.mu.Unlock()
	go func() {
		defer stop()
		err := unbroken(func() error {
			return Run(running, Inside{Work: s.work, Token: made.Token, Take: s.take}, s.clock, plan)
		})
		s.mu.Lock()
		defer s.mu.Unlock()
		r.Ended = true
		if err != nil {
			r.Trouble = strings.TrimSpace(err.Error())
			slog.Warn("a stand-in ended", "device", r.Name, "error", err)
		}
	}()
	return *r, nil
}

// unbroken turns a panic into an error: a broken stand-in must not end the program.
func unbroken(run func() error) (err error) {
	defer func() {
		if p := recover(); p != nil {
			err = fmt.Errorf("broke down: %v", p)
		}
	}()
	return run()
}

// Stop ends a stand-in.
func (s *StandIns) Stop(deviceID string) error {
	s.mu.Lock()
	defer s.mu.Unlock()
	for _, r := range s.running {
		if r.DeviceID == deviceID {
			r.stop()
			return nil
		}
	}
	return fmt.Errorf("stand-in %s: %w", deviceID, bench.ErrNotFound)
}
