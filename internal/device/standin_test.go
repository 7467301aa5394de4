package device

import (
	"context"
	"errors"
	"reflect"
	"testing"
	"time"

	"ojime/internal/bench"
	"ojime/internal/work/feed"
)

// fakeBench answers a stand-in as the record would, by the last state told in order,
// and keeps what came.
type fakeBench struct {
	now   time.Time
	state string
	came  []bench.DeviceMessage
	act   func(f *fakeBench, m bench.DeviceMessage)
}

func (f *fakeBench) clock() Clock {
	return Clock{Now: func() time.Time { return f.now }, Wait: func(ctx context.Context, d time.Duration) error {
		f.now = f.now.Add(d)
		return ctx.Err()
	}}
}

func (f *fakeBench) Job(context.Context) (feed.Job, error) {
	if f.state != bench.Prepared {
		return feed.Job{}, bench.ErrNotFound
	}
	layers := make([]float64, 60)
	for i := range layers {
		layers[i] = 10
	}
	return feed.Job{RunID: "r", Code: "R-001", State: f.state, LayerS: layers, StartS: 30, EndS: 20}, nil
}

func (f *fakeBench) Send(_ context.Context, messages []bench.DeviceMessage) (feed.Received, error) {
	for _, m := range messages {
		f.came = append(f.came, m)
		switch m.State {
		case "printing":
			if f.state == bench.Prepared {
				f.state = bench.Printing
			}
		case "finished":
			f.state = "idle"
		}
		if f.act != nil {
			f.act(f, m)
		}
	}
	return feed.Received{State: f.state, RunCode: map[bool]string{true: "R-001"}[f.state != "idle"]}, nil
}

func play(t *testing.T, f *fakeBench, plan Plan) {
	t.Helper()
	f.now = time.Date(2026, 5, 1, 9, 0, 0, 0, time.UTC)
	if err := Run(t.Context(), f, f.clock(), plan); err != nil {
		t.Fatal(err)
	}
}

func TestAPrinterFollowsItsLayersAtItsSpeed(t *testing.T) {
	f := &fakeBench{state: bench.Prepared}
	play(t, f, Plan{Kind: "printer", Speed: 10})
	took := f.now.Sub(time.Date(2026, 5, 1, 9, 0, 0, 0, time.UTC))
	if want := 65 * time.Second; took != want { // 30 + 60 × 10 + 20 s at ten times the speed
		t.Errorf("took %v, want %v", took, want)
	}
	layer := int64(-1)
	for i, m := range f.came {
		if m.Seq != int64(i+1) || m.Layer == nil || *m.Layer < layer {
			t.Fatalf("message %d: %+v after layer %d", i, m, layer)
		}
		layer = *m.Layer
	}
	if last := f.came[len(f.came)-1]; last.State != "finished" || layer != 60 || *last.Value != 60 {
		t.Errorf("the last word is %+v", last)
	}
}

func TestAPrinterObeysTheBench(t *testing.T) {
	paused := 0
	f := &fakeBench{state: bench.Prepared, act: func(f *fakeBench, m bench.DeviceMessage) {
		switch {
		case m.State == "printing" && *m.Layer == 20 && paused == 0:
			f.state = bench.Paused
		case m.State == "paused":
			if paused++; paused == 6 {
				f.state = bench.Printing
			}
		case *m.Layer == 40:
			f.state = "idle" // stopped at the bench
		}
	}}
	play(t, f, Plan{Kind: "printer", Speed: 10})
	last := f.came[len(f.came)-1]
	if paused != 6 || last.State == "finished" || *last.Layer != 40 {
		t.Errorf("%d words of a pause, the last %+v", paused, last)
	}
}

func TestFaultsShow(t *testing.T) {
	for _, c := range []struct {
		fault string
		shows func([]bench.DeviceMessage) bool
	}{
		{Stall, func(came []bench.DeviceMessage) bool {
			for i := 1; i < len(came); i++ {
				if came[i].State == "fault" {
					return true
				}
			}
			return false
		}},
		{Miscount, func(came []bench.DeviceMessage) bool { return *came[0].Value == 72 }},
		{Disconnect, func(came []bench.DeviceMessage) bool { // a gap in the count, and a finish all the same
			last := came[len(came)-1]
			return last.Seq > int64(len(came)) && came[len(came)-1].State == "finished"
		}},
		{Unruly, func(came []bench.DeviceMessage) bool {
			seen, doubled, disordered := map[int64]bool{}, 0, 0
			for i, m := range came {
				if seen[m.Seq] {
					doubled++
				}
				if seen[m.Seq] = true; i > 0 && m.Seq < came[i-1].Seq {
					disordered++
				}
			}
			return doubled > 0 && disordered > 0
		}},
	} {
		f := &fakeBench{state: bench.Prepared}
		play(t, f, Plan{Kind: "printer", Speed: 10, Seed: 3, Faults: []string{c.fault}})
		if !c.shows(f.came) {
			t.Errorf("%s does not show in %d messages", c.fault, len(f.came))
		}
		again := &fakeBench{state: bench.Prepared}
		play(t, again, Plan{Kind: "printer", Speed: 10, Seed: 3, Faults: []string{c.fault}})
		if !reflect.DeepEqual(f.came, again.came) {
			t.Errorf("%s: the same seed did something else", c.fault)
		}
	}
}

func TestInstrumentsMeasureInTheirUnit(t *testing.T) {
	for kind, of := range instruments {
		f := &fakeBench{}
		ctx, cancel := context.WithCancel(t.Context())
		f.act = func(f *fakeBench, _ bench.DeviceMessage) {
			if len(f.came) == 20 {
				cancel()
			}
		}
		if err := Run(ctx, f, f.clock(), Plan{Kind: kind, Speed: 1}); err != nil {
			t.Errorf("%s: %v", kind, err)
		}
		for _, m := range f.came {
			if m.Unit != of.unit || *m.Value < of.usually-8*of.scatter || *m.Value > of.usually+8*of.scatter {
				t.Errorf("%s measured %+v", kind, m)
			}
		}
		if len(f.came) != 20 {
			t.Errorf("%s sent %d readings", kind, len(f.came))
		}
	}
}

func TestPlansThatMakeNoSense(t *testing.T) {
	for _, p := range []Plan{{Kind: "oven", Speed: 1}, {Kind: "printer"}, {Kind: "printer", Speed: 1, Faults: []string{"fire"}}} {
		if err := Run(t.Context(), &fakeBench{}, RealClock, p); err == nil {
			t.Errorf("%+v was played", p)
		}
	}
	broken := errors.New("refused")
	if err := Run(t.Context(), refusing{broken}, RealClock, Plan{Kind: "caliper", Speed: 1}); !errors.Is(err, broken) {
		t.Errorf("a refusal became %v", err)
	}
}

type refusing struct{ err error }

func (r refusing) Job(context.Context) (feed.Job, error) { return feed.Job{}, r.err }
func (r refusing) Send(context.Context, []bench.DeviceMessage) (feed.Received, error) {
	return feed.Received{}, r.err
}
