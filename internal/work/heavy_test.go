package work_test

import (
	"context"
	"errors"
	"runtime"
	"sync"
	"sync/atomic"
	"testing"

	"ojime/internal/work"
	"ojime/internal/work/task"
)

// However many ask at once, two compute; the others wait, say so, and may leave.
func TestHeavyTasksTakeTurns(t *testing.T) {
	w := work.New(nil, nil, nil)
	var running, most, said atomic.Int64
	release, both := make(chan struct{}), make(chan struct{}, task.MostHeavy)
	var all sync.WaitGroup
	for range 6 {
		all.Go(func() {
			_, err := task.Heavily(t.Context(), w.Base, func(string, float64) { said.Add(1) }, func() (int, error) {
				most.Store(max(most.Load(), running.Add(1)))
				both <- struct{}{}
				<-release
				<-both
				running.Add(-1)
				return 0, nil
			})
			if err != nil {
				t.Error(err)
			}
		})
	}
	for len(both) < task.MostHeavy || w.Heavy.Waiting.Load() < 4 { // until two compute and four wait
		runtime.Gosched()
	}
	gone, leave := context.WithCancel(t.Context())
	leave()
	if _, err := task.Heavily(gone, w.Base, nil, func() (int, error) { return 0, nil }); !errors.Is(err, context.Canceled) {
		t.Errorf("who left waits on: %v", err)
	}
	close(release)
	all.Wait()
	if most.Load() > task.MostHeavy || said.Load() != 4 {
		t.Errorf("%d at a time, %d said that they wait; want at most %d and 4", most.Load(), said.Load(), task.MostHeavy)
	}
}
