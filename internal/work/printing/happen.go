package printing

import (
	"context"
	"fmt"

	"ojime/internal/bench"
	"ojime/internal/core/evidence"
	"ojime/internal/core/quantity"
	"ojime/internal/say"
	"ojime/internal/store"
)

// scored holds a prediction against what became of the plate.
func scored(t *store.Tx, r bench.Run) (*PredictionScore, error) {
	if r.Prediction == "" && r.PredictionFailPct == nil {
		return nil, nil
	}
	out := &PredictionScore{What: r.Prediction, FailPct: r.PredictionFailPct}
	tallies, err := t.TalliesOfRun(r.ID)
	if err != nil {
		return nil, err
	}
	counts := bench.CountsOf(tallies)
	if counts.Pending > 0 {
		return out, nil
	}
	failed := counts.Good() < counts.Judged()
	out.Failed = &failed
	if r.PredictionFailPct != nil {
		out.Score = quantity.Ptr(evidence.Brier(*r.PredictionFailPct/100, failed))
	}
	return out, nil
}

// Happen appends an event to a run: start, pause, resume, a top-up, a dial that was
// changed, a note, stop, finish, or the undoing of an end. The run's start and end
// follow from them. A print does not start on a machine that prints, nor before what
// must be answered is; a time that is hard to believe is asked about once.
func (w *Tasks) Happen(ctx context.Context, runID string, e bench.RunEvent, confirmed bool) (out LiveRun, err error) {
	err = w.Write(ctx, &out, func(t *store.Tx) error {
		if err := w.HappenIn(t, runID, e, confirmed); err != nil {
			return err
		}
		out, err = w.ReadLive(t, runID)
		return err
	})
	return out, err
}

// HappenIn is Happen within a transaction.
func (w *Tasks) HappenIn(t *store.Tx, runID string, e bench.RunEvent, confirmed bool) error {
	e.RunID, e.CreatedMS = runID, w.NowMS()
	typed := e.AtMS != 0
	if !typed {
		e.AtMS = w.NowMS()
	}
	if err := bench.HasBeen("at_ms", e.AtMS, w.NowMS()); err != nil {
		return err
	}
	r, err := t.Run(runID)
	if err != nil {
		return err
	}
	events, err := t.EventsOfRun(runID)
	if err != nil {
		return err
	}
	if r.PreparedMS == nil {
		return quantity.Errorf("kind", "cannot be said of %s: it was recorded after the fact", r.Code)
	}
	if n := len(events); typed && n > 0 && e.AtMS < events[n-1].AtMS {
		return quantity.Errorf("at_ms", "lies before the last event (%s); check day and time", events[n-1].Kind)
	}
	if e.Kind == "start" {
		if err := w.mayStart(t, r); err != nil {
			return err
		}
	}
	if err := w.Append(t, r, events, e); err != nil {
		return err
	}
	if e.Kind == "finish" {
		return w.believeEnd(t, runID, confirmed)
	}
	return nil
}

// mayStart refuses the start of a print on a machine that prints, or before what must
// be answered is.
func (w *Tasks) mayStart(t *store.Tx, r bench.Run) error {
	open, err := t.OpenRuns()
	if err != nil {
		return err
	}
	for _, other := range open {
		if other.ID == r.ID || other.MachineID != r.MachineID {
			continue
		}
		events, err := t.EventsOfRun(other.ID)
		if err != nil {
			return err
		}
		if state := bench.StateOf(other, events); state == bench.Printing || state == bench.Paused {
			return fmt.Errorf("%s is %s on this machine; end it first: %w", other.Code, state, bench.ErrConflict)
		}
	}
	live, err := w.ReadLive(t, r.ID)
	if err != nil {
		return err
	}
	for _, i := range live.Items {
		if i.Must && i.Answer == "" {
			return quantity.Errorf("kind", "cannot be start yet: %q wants an answer (%s). Answer what is open, or skip it with a reason", i.Title, say.Counted(live.Open, "item is open", "items are open"))
		}
	}
	return nil
}

// believeEnd asks once about an end that is hard to believe.
func (w *Tasks) believeEnd(t *store.Tx, runID string, confirmed bool) error {
	r, err := t.Run(runID)
	if err != nil {
		return err
	}
	if err := believable(&r, confirmed); err != nil {
		return err
	}
	return t.SaveRun(r)
}

// Append adds an event to a run's, if it may follow, and moves the run's start and
// end with it. It gives the event its id.
func (w *Tasks) Append(t *store.Tx, r bench.Run, events []bench.RunEvent, e bench.RunEvent) (err error) {
	if err := bench.MayFollow(r, events, e); err != nil {
		return err
	}
	if e.ID, err = w.NewID(); err != nil {
		return err
	}
	if e.Follow(events) {
		r.ClockWentBack = true
	}
	if err := t.SaveRunEvent(e); err != nil {
		return err
	}
	switch e.Kind {
	case "start":
		r.StartedMS = e.AtMS
	case "stop", "finish":
		r.EndedMS, r.EndedHow = quantity.Ptr(max(e.AtMS, r.StartedMS+1)), bench.EndFinished
		if e.Kind == "stop" {
			r.EndedHow = bench.EndStopped
		}
		r.PausedS = float64(bench.PausedMS(append(bench.Believed(events), e))) / 1000
		if e.Kind == "stop" {
			r.StoppedLayer = e.Layer
		}
	case "undo":
		r.EndedMS, r.EndedHow, r.PausedS, r.StoppedLayer, r.EndConfirmed = nil, "", 0, nil, false
	case "dial":
		r.DialChanged = true
	}
	r.Version++
	return PutRun(t, r)
}

// Answer ticks or skips an item of the preflight.
func (w *Tasks) Answer(ctx context.Context, runID string, a bench.Preflight) (out LiveRun, err error) {
	if err := a.Check(); err != nil {
		return out, err
	}
	if a.ID, err = w.NewID(); err != nil {
		return out, err
	}
	a.RunID, a.AtMS = runID, w.NowMS()
	if a.State == "skipped" && a.Reason == "" {
		a.Reason = "no reason given"
	}
	err = w.Write(ctx, &out, func(t *store.Tx) error {
		if err := t.SavePreflight(a); err != nil {
			return err
		}
		out, err = w.ReadLive(t, runID)
		return err
	})
	return out, err
}

// SkipOpen skips every item that must be answered and is not, with one reason.
func (w *Tasks) SkipOpen(ctx context.Context, runID, reason string) (out LiveRun, err error) {
	if reason == "" {
		return out, quantity.Errorf("reason", "is missing; say why nothing is looked at")
	}
	err = w.Write(ctx, &out, func(t *store.Tx) error {
		live, err := w.ReadLive(t, runID)
		if err != nil {
			return err
		}
		for _, i := range live.Items {
			if !i.Must || i.Answer != "" {
				continue
			}
			a := bench.Preflight{RunID: runID, Item: i.Item, State: "skipped", AtMS: w.NowMS(), Reason: reason}
			if a.ID, err = w.NewID(); err != nil {
				return err
			}
			if err := t.SavePreflight(a); err != nil {
				return err
			}
		}
		out, err = w.ReadLive(t, runID)
		return err
	})
	return out, err
}
