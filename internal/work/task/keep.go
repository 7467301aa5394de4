package task

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
)

// Write runs one change in one transaction. It is committed only when answer,
// which the change fills in, can be shown, so that what is refused is not kept;
// and once only, however often the same command arrives.
//
// What a page asked for is remembered for a while, so that it can be undone.
func (w *Base) Write(ctx context.Context, answer any, change func(*store.Tx) error) error {
	c, again := CommandOf(ctx), false
	once := w.once(c, answer, &again, change)
	if c.Says == "" {
		return w.Store.Write(ctx, once)
	}
	rows, untellable, err := w.Store.WriteTold(ctx, mostRows, once)
	if err != nil || again || len(rows) == 0 && !untellable {
		return err
	}
	w.remember(context.WithoutCancel(ctx), c, rows, untellable)
	return nil
}

// once is a change that is made if its command was not done already, and then answers as before.
func (w *Base) once(c Command, answer any, again *bool, change func(*store.Tx) error) func(*store.Tx) error {
	return func(t *store.Tx) (err error) {
		*again, err = w.repeated(t, c, answer)
		if *again || err != nil {
			return err
		}
		if err := change(t); err != nil {
			return err
		}
		text, err := shown(answer)
		if err != nil {
			return err
		}
		if _, once := answer.(secret); once {
			text = nil
		}
		return w.note(t, c, text)
	}
}

// Keep is write for a change that gives its answer.
func Keep[Out any](ctx context.Context, w *Base, change func(*store.Tx) (Out, error)) (out Out, err error) {
	err = w.Write(ctx, &out, func(t *store.Tx) error {
		out, err = change(t)
		return err
	})
	return out, err
}

// shown is an answer as it will be sent. Numbers that leave what can be written
// are an error of the whole input: nothing of it is kept.
func shown(answer any) ([]byte, error) {
	text, err := json.Marshal(answer)
	var beyond *json.UnsupportedValueError
	if errors.As(err, &beyond) {
		return nil, quantity.Errorf("body", "leads to numbers too extreme to show (%s); check its units. Nothing was kept", beyond.Str)
	}
	return text, err
}

// Command names one change that a page asks for: ID is the page's own, Asked
// what was asked, so that no other change passes under the same id; Says is it in words, empty for
// what is not to be undone.
type Command struct{ ID, Asked, Says string }

type commandKey struct{}

// WithCommand makes the change that follows the one that c names.
func WithCommand(ctx context.Context, c Command) context.Context {
	return context.WithValue(ctx, commandKey{}, c)
}

// CommandOf is the command that a context carries, empty for none.
func CommandOf(ctx context.Context) Command {
	c, _ := ctx.Value(commandKey{}).(Command)
	return c
}

// How long commands are known, and for how long, and of how many, their answers: a lost answer is asked for again
// within seconds; a phone that was away sends again after days what had arrived, and need only hear that it had.
const (
	answersKept = 200
	answersFor  = time.Hour
	commandsFor = 31 * 24 * time.Hour
)

// repeated fills in the answer of a command that was done already.
func (w *Base) repeated(t *store.Tx, c Command, into any) (bool, error) {
	if c.ID == "" {
		return false, nil
	}
	asked, answer, err := t.Command(c.ID)
	if IsMissing(err) {
		return false, nil
	}
	if err != nil {
		return false, err
	}
	if asked != c.Asked {
		return false, fmt.Errorf("the id of this command was used for another one; send it with an id of its own: %w", bench.ErrConflict)
	}
	if answer == "" {
		return false, fmt.Errorf("this was done already, and its answer is told no more: %w", bench.ErrDone)
	}
	if err := json.Unmarshal([]byte(answer), into); err != nil {
		return false, fmt.Errorf("read the answer of a command again: %w", err)
	}
	return true, nil
}

// secret is an answer that is told once and kept nowhere.
type secret interface{ ToldOnce() }

// note remembers a command with its answer.
func (w *Base) note(t *store.Tx, c Command, answer []byte) error {
	if c.ID == "" {
		return nil
	}
	return t.SaveCommand(c.ID, c.Asked, string(answer), w.NowMS(), w.NowMS()-commandsFor.Milliseconds(), w.NowMS()-answersFor.Milliseconds(), answersKept)
}
