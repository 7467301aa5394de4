// Package publish writes a review up and hands its tables out.
package publish

import (
	"ojime/internal/work/planning"
	"ojime/internal/work/task"
)

// Tasks are the tasks of this step on one record.
type Tasks struct {
	*task.Base
	planning *planning.Tasks
}

// New makes them.
func New(base *task.Base, planning *planning.Tasks) *Tasks {
	return &Tasks{Base: base, planning: planning}
}
