// Package feed takes in what devices send.
package feed

import (
	"ojime/internal/work/planning"
	"ojime/internal/work/printing"
	"ojime/internal/work/task"
)

// Tasks are the tasks of this step on one record.
type Tasks struct {
	*task.Base
	Planning *planning.Tasks
	Printing *printing.Tasks
}

// New makes them.
func New(base *task.Base, planning *planning.Tasks, printing *printing.Tasks) *Tasks {
	return &Tasks{Base: base, Planning: planning, Printing: printing}
}
