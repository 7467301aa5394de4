// Package upkeep keeps what happens to machines, bottles and baths, and says what wears and
// what is due.
package upkeep

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
