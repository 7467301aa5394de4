// Package reviews is what a review states, names, declares and leaves out, and its set-ups set
// against each other.
package reviews

import (
	"ojime/internal/work/planning"
	"ojime/internal/work/task"
)

// Tasks are the tasks of this step on one record.
type Tasks struct {
	*task.Base
	planning *planning.Tasks
}

// New makes them.
func New(base *task.Base, planning *planning.Tasks) *Tasks {
	return &Tasks{Base: base, planning: planning}
}
