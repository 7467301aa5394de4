// Package benchview shows the cords and what comes next.
package benchview

import (
	"ojime/internal/work/printing"
	"ojime/internal/work/task"
	"ojime/internal/work/upkeep"
)

// Tasks are the tasks of this step on one record.
type Tasks struct {
	*task.Base
	Upkeep   *upkeep.Tasks
	Printing *printing.Tasks
}

// New makes them.
func New(base *task.Base, upkeep *upkeep.Tasks, printing *printing.Tasks) *Tasks {
	return &Tasks{Base: base, Upkeep: upkeep, Printing: printing}
}
