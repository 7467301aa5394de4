// Package inspect takes what is seen and measured on specimens.
package inspect

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
