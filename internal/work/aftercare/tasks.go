// Package aftercare is what is done to a print after it: drip, wash, dry and cure, with baths and clocks,
// and specimens whose labels were swapped.
package aftercare

import (
	"ojime/internal/work/task"
	"ojime/internal/work/upkeep"
)

// Tasks are the tasks of this step on one record.
type Tasks struct {
	*task.Base
	Upkeep *upkeep.Tasks
}

// New makes them.
func New(base *task.Base, upkeep *upkeep.Tasks) *Tasks {
	return &Tasks{Base: base, Upkeep: upkeep}
}
