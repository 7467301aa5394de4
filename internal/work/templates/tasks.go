// Package templates keeps what the next entry begins with, so that nothing is typed twice: what a room
// is like for every print of the machines in it, what is looked at on every piece of a kind, and the
// settings that new ones of a machine begin with.
package templates

import (
	"ojime/internal/work/kit"
	"ojime/internal/work/task"
)

// Tasks are what a user does with templates.
type Tasks struct {
	*task.Base
	kit *kit.Tasks
}

// New makes them.
func New(base *task.Base, kit *kit.Tasks) *Tasks { return &Tasks{Base: base, kit: kit} }
