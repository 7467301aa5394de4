// Package stress takes specimens through series of stress tests, in an order that is drawn,
// and says what they show.
package stress

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
