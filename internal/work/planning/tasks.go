// Package planning lays plates and says what a print will take: time, resin, wear, money and
// days.
package planning

import (
	"ojime/internal/work/kit"
	"ojime/internal/work/task"
)

// Tasks are the tasks of this step on one record.
type Tasks struct {
	*task.Base
	Kit *kit.Tasks
	// held keeps how many copies plates hold: that follows from plate and piece alone, whatever changes on record.
	held task.Memory
}

// New makes them.
func New(base *task.Base, kit *kit.Tasks) *Tasks {
	return &Tasks{Base: base, Kit: kit}
}
