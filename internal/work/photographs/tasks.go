// Package photographs keeps pictures of specimens and references, makes copies of them
// without tags, measures on them and lays them beside each other.
package photographs

import (
	"sync"

	"ojime/internal/work/task"
)

// Tasks are the tasks of this step on one record.
type Tasks struct {
	*task.Base
	// saving is held by uploads from the first file on disk to the entry that names it, and
	// whole by who removes files.
	saving sync.RWMutex
}

// New makes them.
func New(base *task.Base) *Tasks {
	return &Tasks{Base: base}
}
