// Package printing follows a print from the preflight to the bag.
package printing

import (
	"ojime/internal/work/kit"
	"ojime/internal/work/planning"
	"ojime/internal/work/task"
	"ojime/internal/work/upkeep"
)

// Tasks are the tasks of this step on one record.
type Tasks struct {
	*task.Base
	Kit      *kit.Tasks
	Planning *planning.Tasks
	Upkeep   *upkeep.Tasks
}

// New makes them.
func New(base *task.Base, kit *kit.Tasks, upkeep *upkeep.Tasks, planning *planning.Tasks) *Tasks {
	return &Tasks{Base: base, Kit: kit, Planning: planning, Upkeep: upkeep}
}
