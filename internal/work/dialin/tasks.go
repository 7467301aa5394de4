// Package dialin plans exposure series, takes their readings and makes settings of them.
package dialin

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
