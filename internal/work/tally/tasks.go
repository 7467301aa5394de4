// Package tally is what the prints of the whole record come to: failures by machine, resin,
// settings and piece, and models that are printed in parts.
package tally

import (
	"ojime/internal/work/task"
)

// Tasks are the tasks of this step on one record.
type Tasks struct {
	*task.Base
}

// New makes them.
func New(base *task.Base) *Tasks {
	return &Tasks{Base: base}
}
