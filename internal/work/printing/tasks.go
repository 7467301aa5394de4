// Package printing follows a print from the preflight to the bag.
package printing

import (
	"ojime/internal/work/planning"
	"ojime/internal/work/task"
	"ojime/internal/work/upkeep"
)

// Tasks are the tasks of this step on one record.
type Tasks struct {
	*task.Base
	Planning *planning.Tasks
	Upkeep   *upkeep.Tasks
}

// New makes them.
func New(base *task.Base, upkeep *upkeep.Tasks, planning *planning.Tasks) *Tasks {
	return &Tasks{Base: base, Planning: planning, Upkeep: upkeep}
}
