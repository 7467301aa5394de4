// Package firstdays keeps what is learned of a machine, and of the programs before it, by having
// them: how the unit came, how it is levelled, how even its light is, what living with it is like,
// and how long the computer takes.
package firstdays

import (
	"ojime/internal/work/kit"
	"ojime/internal/work/task"
)

// Tasks are the tasks of this step on one record.
type Tasks struct {
	*task.Base
	kit *kit.Tasks
}

// New makes them.
func New(base *task.Base, kit *kit.Tasks) *Tasks { return &Tasks{Base: base, kit: kit} }
