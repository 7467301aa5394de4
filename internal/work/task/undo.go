package task

import (
	"context"
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"sync"
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/say"
	"ojime/internal/store"
)

// For how long, and of how many rows, what was done can be undone: it is held in memory alone.
const (
	undoFor  = 15 * time.Minute
	mostRows = 4_000
	mostHeld = 20_000
)

// Done is a command of the last minutes: what it did, to what, and whether it can be undone.
type Done struct {
	ID   string `json:"id"`
	AtMS int64  `json:"at_ms"`
	Says string `json:"says"`
	// Of are the codes of what it changed, the first few; Rows how many rows of the record it wrote.
	Of   string `json:"of"`
	Rows int    `json:"rows"`
	// Reason says why it cannot be undone; it is empty where it can. UndoneMS is when it was.
	Reason   string `json:"reason"`
	UndoneMS *int64 `json:"undone_ms"`
	rows     []store.Row
}

// ledger holds the commands of the last minutes, the oldest first.
type ledger struct {
	mu   sync.Mutex
	list []Done
}

func (l *ledger) add(d Done, nowMS int64) {
	l.mu.Lock()
	defer l.mu.Unlock()
	l.list = append(l.list, d)
	held := 0
	for i := len(l.list) - 1; i >= 0; i-- {
		held += len(l.list[i].rows)
		if held > mostHeld || nowMS-l.list[i].AtMS > undoFor.Milliseconds() {
			l.list = slices.Clone(l.list[i+1:])
			return
		}
	}
}

// recent are those that are not too old, the newest first.
func (l *ledger) recent(nowMS int64) []Done {
	l.mu.Lock()
	defer l.mu.Unlock()
	out := []Done{}
	for _, d := range slices.Backward(l.list) {
		if nowMS-d.AtMS <= undoFor.Milliseconds() {
			out = append(out, d)
		}
	}
	return out
}

func (l *ledger) undone(id string, nowMS int64) {
	l.mu.Lock()
	defer l.mu.Unlock()
	for i := range l.list {
		if l.list[i].ID == id {
			l.list[i].UndoneMS, l.list[i].rows = &nowMS, nil
		}
	}
}

// Recent are the commands of the last minutes, the newest first.
func (w *Base) Recent() []Done { return w.done.recent(w.NowMS()) }

// Undo takes back what a command of the last minutes did, to the last field: what it made is gone,
// what it changed is as before. What was there stays in the history. It is refused, whole, where
// something was changed since or rests on it; it can be undone itself.
func (w *Base) Undo(ctx context.Context, id string) ([]Done, error) {
	i := slices.IndexFunc(w.Recent(), func(d Done) bool { return d.ID == id })
	if i < 0 {
		return nil, fmt.Errorf("command %s is not among those of the last %d minutes: %w", id, int(undoFor.Minutes()), bench.ErrNotFound)
	}
	d := w.Recent()[i]
	switch {
	case d.UndoneMS != nil:
		return nil, fmt.Errorf("it was undone already: %w", bench.ErrConflict)
	case d.Reason != "":
		return nil, quantity.Errorf("id", "cannot be undone: %s", d.Reason)
	}
	c := CommandOf(ctx)
	c.Says = undoWord + d.Says
	if again, was := strings.CutPrefix(d.Says, undoWord); was {
		c.Says = "Do again: " + again
	}
	_, err := Keep(WithCommand(ctx, c), w, func(t *store.Tx) (bool, error) {
		if err := t.Revert(d.rows); err != nil {
			return false, err
		}
		return true, w.noteUndone(t, c.Says, d.rows)
	})
	if err != nil {
		return nil, err
	}
	w.done.undone(id, w.NowMS())
	return w.Recent(), nil
}

const undoWord = "Undo: "

// noteUndone keeps in the history what the rows of a command were, since they are so no more.
func (w *Base) noteUndone(t *store.Tx, says string, rows []store.Row) error {
	for _, r := range slices.Backward(rows) {
		id, there := r.After["id"].(string)
		if !there {
			id, there = r.Before["id"].(string)
		}
		if !there {
			continue
		}
		if err := w.Note(t, r.Table, id, says, "", asFields(r.After), asFields(r.Before)); err != nil {
			return err
		}
	}
	return nil
}

// asFields is a row as its entry is shown: lists in it are lists.
func asFields(row map[string]any) map[string]any {
	out := map[string]any{}
	for name, v := range row {
		text, is := v.(string)
		if is && text != "" && strings.ContainsRune("[{", rune(text[0])) && json.Valid([]byte(text)) {
			out[name] = json.RawMessage(text)
			continue
		}
		out[name] = v
	}
	return out
}

// mostCodes is how many codes tell what a command was of.
const mostCodes = 3

// remember holds a command that was done, so that it can be undone. What it was of is left out where
// that cannot be read: the command is kept all the same.
func (w *Base) remember(ctx context.Context, c Command, rows []store.Row, untellable bool) {
	d := Done{ID: c.ID, AtMS: w.NowMS(), Says: c.Says, Rows: len(rows), rows: rows}
	if untellable {
		d.Reason = fmt.Sprintf("it changed more than %s rows, what devices sent, or a blind panel", say.Whole(mostRows))
	}
	for _, r := range rows {
		if r.Before["erased_ms"] == nil && r.After["erased_ms"] != nil {
			d.Reason, d.rows = "its files were erased for good", nil
		}
	}
	var codes []string
	if err := w.Store.Read(ctx, func(t *store.Tx) (err error) {
		codes, err = t.CodesOf(rows)
		return err
	}); err == nil {
		if more := len(codes) - mostCodes; more > 0 {
			codes = append(codes[:mostCodes], fmt.Sprintf("%d more", more))
		}
		d.Of = say.List(codes)
	}
	w.done.add(d, d.AtMS)
}
