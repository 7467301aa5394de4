// Package compare brings the prints of set-ups together, audits and compares them.
package compare

import (
	"ojime/internal/work/task"
)

// Tasks are the tasks of this step on one record.
type Tasks struct {
	*task.Base
}

// New makes them.
func New(base *task.Base) *Tasks {
	return &Tasks{Base: base}
}
