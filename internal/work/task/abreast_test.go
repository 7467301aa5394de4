package task

import (
	"errors"
	"sync/atomic"
	"testing"
)

// Every step is done, whether or not another fails, and the error is told.
func TestStepsAreDoneAbreast(t *testing.T) {
	for _, n := range []int{0, 1, 2, 100} {
		done := make([]int, n)
		if err := Abreast(n, func(i int) error { done[i]++; return nil }); err != nil {
			t.Fatal(err)
		}
		for i, times := range done {
			if times != 1 {
				t.Errorf("of %d, step %d was done %d times", n, i, times)
			}
		}
	}
	var steps atomic.Int64
	wrong := errors.New("wrong")
	err := Abreast(50, func(i int) error {
		if steps.Add(1); i == 7 {
			return wrong
		}
		return nil
	})
	if !errors.Is(err, wrong) || steps.Load() != 50 {
		t.Errorf("%v after %d steps", err, steps.Load())
	}
}
