// Package record takes the whole record out, in, and over with a critical eye.
package record

import (
	"ojime/internal/work/feed"
	"ojime/internal/work/task"
)

// Tasks are the tasks of this step on one record.
type Tasks struct {
	*task.Base
	Feed *feed.Tasks
	safe safekeeper
}

// New makes them.
func New(base *task.Base, feed *feed.Tasks) *Tasks {
	return &Tasks{Base: base, Feed: feed}
}
