// Package sliced reads sliced files and stacks of layers, and lays them beside the prints and settings
// that they belong to.
package sliced

import (
	"ojime/internal/work/kit"
	"ojime/internal/work/task"
)

// Tasks are the tasks of this step on one record.
type Tasks struct {
	*task.Base
	Kit *kit.Tasks
}

// New makes them.
func New(base *task.Base, kit *kit.Tasks) *Tasks { return &Tasks{Base: base, Kit: kit} }
