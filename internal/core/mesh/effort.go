package mesh

import (
	"errors"
	"fmt"
	"sync/atomic"
)

// ErrTangled says that a file asks for more work than any real piece does:
// thousands of bodies on one spot, say. What wraps it says where.
var ErrTangled = errors.New("is too tangled to slice; join its bodies in your software and export it again")

// Most steps (an edge taken through one strip, some 25 ns) that one layer and one file may take.
// A model of a million triangles in a thousand layers takes some tens of
// millions in all; these are seconds, not minutes.
const (
	mostStepsALayer = 100_000_000
	mostStepsAFile  = 1_500_000_000
	// stepsBetween is how often a sweep asks whether to go on.
	stepsBetween = 500_000
)

// effort is what slicing one file may still cost. Its workers share it.
type effort struct {
	left atomic.Int64
	goOn func() bool // nil is never asked
}

func newEffort(goOn func() bool) *effort {
	e := &effort{goOn: goOn}
	e.left.Store(mostStepsAFile)
	return e
}

// spend takes steps off, and says why to stop.
func (e *effort) spend(steps, ofLayer int64) error {
	switch {
	case e.left.Add(-steps) < 0:
		return fmt.Errorf("as a whole it %w", ErrTangled)
	case ofLayer > mostStepsALayer:
		return fmt.Errorf("in one layer it %w", ErrTangled)
	case e.goOn != nil && !e.goOn():
		return ErrStopped
	}
	return nil
}

// caught turns a panic of a worker into an error: one broken file must not end
// the program.
func caught(err *error) {
	if r := recover(); r != nil {
		*err = fmt.Errorf("slicing failed: %v", r)
	}
}
