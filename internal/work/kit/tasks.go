// Package kit keeps machines, resins, pieces with their meshes and
// settings, and says what follows from each.
package kit

import (
	"ojime/internal/work/task"
)

// Tasks are the tasks of this step on one record.
type Tasks struct {
	*task.Base
	cache  sliceCache
	places spotCache
}

// New makes them.
func New(base *task.Base) *Tasks {
	return &Tasks{Base: base}
}
