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

// SaveCommand remembers a command. It forgets those from before forgetMS and those of a time that has not come,
// and the answers of those from before tellMS, and of all but the newest most.
func (t *Tx) SaveCommand(id, asked, answer string, nowMS, forgetMS, tellMS, most int64) error {
	if err := t.q.ForgetCommands(t.ctx, db.ForgetCommandsParams{AtMS: forgetMS, AtMS_2: nowMS}); err != nil {
		return fmt.Errorf("forget old commands: %w", err)
	}
	if err := t.q.ForgetAnswers(t.ctx, db.ForgetAnswersParams{AtMS: tellMS, Offset: most}); err != nil {
		return fmt.Errorf("forget old answers: %w", err)
	}
	return saved("command", t.q.SaveCommand(t.ctx, db.SaveCommandParams{ID: id, AtMS: nowMS, Asked: asked, Answer: answer}))
}
