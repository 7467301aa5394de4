// Package experiment is what a review puts to the test: the matrix of its combinations by
// pieces, what that can tell, and the plan of the prints that it lacks.
package experiment

import (
	"ojime/internal/work/kit"
	"ojime/internal/work/planning"
	"ojime/internal/work/task"
)

// Tasks are the tasks of this step on one record.
type Tasks struct {
	*task.Base
	Kit      *kit.Tasks
	Planning *planning.Tasks
}

// New makes them.
func New(base *task.Base, kit *kit.Tasks, planning *planning.Tasks) *Tasks {
	return &Tasks{Base: base, Kit: kit, Planning: planning}
}
