package templates

import (
	"context"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/store"
	"ojime/internal/work/task"
)

// KindCard is a kind of piece: what is looked at on each of it, and the pieces there are of it.
type KindCard struct {
	Kind      string          `json:"kind"`
	Checklist bench.Checklist `json:"checklist"`
	Pieces    []string        `json:"pieces"`
}

// Kinds lists the kinds of pieces there are, those with a checklist and those of pieces alone.
func (w *Tasks) Kinds(ctx context.Context) (out []KindCard, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		out, err = kinds(t)
		return err
	})
	return out, err
}

func kinds(t *store.Tx) ([]KindCard, error) {
	out := []KindCard{}
	lists, err := t.Checklists()
	if err != nil {
		return out, err
	}
	for _, l := range lists {
		out = append(out, KindCard{l.Kind, l, []string{}})
	}
	pieces, err := t.Pieces()
	for _, p := range pieces {
		if p.Kind == "" {
			continue
		}
		at := slices.IndexFunc(out, func(c KindCard) bool { return bench.SameKind(c.Kind, p.Kind) })
		if at < 0 {
			at, out = len(out), append(out, KindCard{p.Kind, bench.Checklist{Kind: p.Kind, Checkpoints: bench.Checkpoints{}}, []string{}})
		}
		out[at].Pieces = append(out[at].Pieces, p.Code+" "+p.Name)
	}
	slices.SortFunc(out, func(a, b KindCard) int { return strings.Compare(strings.ToLower(a.Kind), strings.ToLower(b.Kind)) })
	return out, err
}

var checklistEntry = task.Entry[bench.Checklist]{Table: "checklist",
	Head: func(l *bench.Checklist) task.Head {
		return task.Head{ID: &l.ID, Code: &l.Code, Version: &l.Version, CreatedMS: &l.CreatedMS}
	},
	Get: (*store.Tx).Checklist, Put: (*store.Tx).SaveChecklist}

// SaveChecklist says what is looked at on every piece of a kind. New pieces of it begin with it; those
// there are stay as they are.
func (w *Tasks) SaveChecklist(ctx context.Context, l bench.Checklist) ([]KindCard, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) ([]KindCard, error) {
		l.ID, l.Kind = "", strings.TrimSpace(l.Kind)
		if err := l.Check(); err != nil {
			return nil, err
		}
		lists, err := t.Checklists()
		if err != nil {
			return nil, err
		}
		for _, old := range lists {
			if bench.SameKind(old.Kind, l.Kind) {
				l.ID, l.Kind = old.ID, old.Kind
			}
		}
		if _, err := task.Put(w.Base, t, checklistEntry, l); err != nil {
			return nil, err
		}
		return kinds(t)
	})
}
