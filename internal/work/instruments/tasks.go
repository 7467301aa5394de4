// Package instruments keeps what is measured with: calipers and scales, the checks that say whether they
// can be relied on, and studies of how well readings repeat.
package instruments

import "ojime/internal/work/task"

// Tasks are the tasks of this step on one record.
type Tasks struct{ *task.Base }

// New makes them.
func New(base *task.Base) *Tasks { return &Tasks{Base: base} }
