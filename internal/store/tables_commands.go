package store

import (
	"fmt"

	"ojime/internal/store/db"
)

// Command reads what a command asked and what was answered, or
// bench.ErrNotFound.
func (t *Tx) Command(id string) (asked, answer string, err error) {
	row, err := t.q.CommandByID(t.ctx, id)
	return row.Asked, row.Answer, read("command", id, err)
}

// SaveCommand remembers a command and forgets those from before sinceMS, those
// of a time that has not come, and all but the newest most.
func (t *Tx) SaveCommand(id, asked, answer string, nowMS, sinceMS, most int64) error {
	if err := t.q.ForgetCommands(t.ctx, db.ForgetCommandsParams{AtMS: sinceMS, AtMS_2: nowMS, Offset: most}); err != nil {
		return fmt.Errorf("forget old commands: %w", err)
	}
	return saved("command", t.q.SaveCommand(t.ctx, db.SaveCommandParams{ID: id, AtMS: nowMS, Asked: asked, Answer: answer}))
}
