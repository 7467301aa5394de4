// Package calendar lays the prints that wait on all machines into the reviewer's hours: when each
// begins, ends and is ready, and by when it must begin to be ready in time.
package calendar

import (
	"ojime/internal/work/planning"
	"ojime/internal/work/printing"
	"ojime/internal/work/task"
)

// Tasks are the tasks of this step on one record.
type Tasks struct {
	*task.Base
	planning *planning.Tasks
	printing *printing.Tasks
}

// New makes them.
func New(base *task.Base, planning *planning.Tasks, printing *printing.Tasks) *Tasks {
	return &Tasks{Base: base, planning: planning, printing: printing}
}
