package task

import (
	"context"
	"sync/atomic"

	"golang.org/x/sync/semaphore"

	"ojime/internal/core/mesh"
)

// mostHeavy is how many heavy computations (slicing, hollowing, drawing) run at
// a time, so that they leave room and memory for the pages. A mesh file of more
// than largeMesh bytes takes both places.
const (
	MostHeavy = 2
	largeMesh = 64 << 20
)

// lane lets heavy computations through in turn.
type lane struct {
	Places  *semaphore.Weighted
	Waiting atomic.Int64
}

func newLane() *lane { return &lane{Places: semaphore.NewWeighted(MostHeavy)} }

// Enter waits for places, and says so. Who goes away while waiting gets the
// context's error.
func (l *lane) Enter(ctx context.Context, report Report, places int64) error {
	if l.Places.TryAcquire(places) {
		return nil
	}
	if report != nil {
		report("waiting for another task to end", 0)
	}
	l.Waiting.Add(1)
	defer l.Waiting.Add(-1)
	return l.Places.Acquire(ctx, places)
}

// Heavily runs a computation in its turn. It must not be called from within
// another one, and compute must not wait for the writer of the record.
func Heavily[Out any](ctx context.Context, w *Base, report Report, compute func() (Out, error)) (Out, error) {
	return HeavilyFor(ctx, w, report, 0, compute)
}

// HeavilyFor is heavily for a mesh file of so many bytes.
func HeavilyFor[Out any](ctx context.Context, w *Base, report Report, bytes int64, compute func() (Out, error)) (out Out, err error) {
	places := int64(1)
	if bytes > largeMesh {
		places = MostHeavy
	}
	if err := w.Heavy.Enter(ctx, report, places); err != nil {
		return out, err
	}
	defer w.Heavy.Places.Release(places)
	return compute()
}

// Report is told what a long task is doing and the share of it that is done, 0
// to 1. It may be nil.
type Report func(stage string, share float64)

// Progress reports a stage and stops when the one who asked has gone.
func (r Report) Progress(ctx context.Context, stage string) mesh.Progress {
	return func(share float64) bool {
		if r != nil {
			r(stage, share)
		}
		return ctx.Err() == nil
	}
}
