package panels

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work/task"
)

// Closing tells the key of a panel. EarlyWhy is needed where ballots are out, and stays with what the panel
// shows for good; Opening where the key is known only in the record that the panel came from.
type Closing struct {
	EarlyWhy string `json:"early_why" required:"false" maxLength:"400"`
	Opening  string `json:"opening" required:"false" maxLength:"64"`
}

// Close tells the key of a panel, and what was voted.
func (w *Tasks) Close(ctx context.Context, id string, in Closing) (PanelSheet, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (PanelSheet, error) {
		p, err := changing(t, id, Voting, "its key is told once, after it was sealed")
		if err != nil {
			return PanelSheet{}, err
		}
		before, err := sheetOf(t, id)
		if err != nil {
			return PanelSheet{}, err
		}
		out := p.Judges - before.Cast
		in.EarlyWhy = strings.TrimSpace(in.EarlyWhy)
		if out > 0 && in.EarlyWhy == "" {
			return PanelSheet{}, quantity.Errorf("early_why", "is missing; %d of %d judges have not voted: say why it is opened early, which stays with the result for good", out, p.Judges)
		}
		if before.Elsewhere {
			if err := unseal(t, p, in.Opening); err != nil {
				return PanelSheet{}, err
			}
		}
		was := p
		p.ClosedMS = quantity.Ptr(w.NowMS())
		says := "close the panel"
		if out > 0 {
			says, p.EarlyWhy = "open the panel early", in.EarlyWhy
		}
		if err := w.put(t, was, p, says, p.EarlyWhy); err != nil {
			return PanelSheet{}, err
		}
		return sheetOf(t, id)
	})
}

// unseal opens a key that came sealed from another record.
func unseal(t *store.Tx, p bench.Panel, opening string) error {
	seal, err := t.PanelSeal(p.ID)
	if err != nil {
		return err
	}
	if seal.PanelKey, err = open(seal.Sealed, strings.TrimSpace(opening), p.KeySHA256); err != nil {
		return err
	}
	seal.Opening = strings.TrimSpace(opening)
	return t.SavePanelSeal(seal)
}

// Again lets a judge vote again: their ballot is given out anew, and what they voted stays on record and counts
// no more.
func (w *Tasks) Again(ctx context.Context, id string, judge int64, why string) (PanelSheet, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (PanelSheet, error) {
		p, err := changing(t, id, Voting, "nobody votes again")
		if err != nil {
			return PanelSheet{}, err
		}
		all, err := t.BallotsOfPanel(p.ID)
		if err != nil {
			return PanelSheet{}, err
		}
		at := slices.IndexFunc(all, func(b bench.Ballot) bool { return b.Judge == judge && b.ReplacedMS == nil })
		if at < 0 {
			return PanelSheet{}, fmt.Errorf("ballot of judge %d: %w", judge, bench.ErrNotFound)
		}
		if why = strings.TrimSpace(why); why == "" {
			return PanelSheet{}, quantity.Errorf("why", "is missing; say why this judge votes again")
		}
		old := all[at]
		if old.CastMS == nil {
			return PanelSheet{}, fmt.Errorf("judge %d has not voted yet: %w", judge, bench.ErrConflict)
		}
		old.ReplacedMS, old.ReplacedWhy = quantity.Ptr(w.NowMS()), why
		if err := t.SaveBallot(old); err != nil {
			return PanelSheet{}, err
		}
		if err := w.giveBallot(t, p.ID, judge, old.Trials); err != nil {
			return PanelSheet{}, err
		}
		asked, set := map[string]any{"judge": nil}, map[string]any{"judge": judge}
		if err := w.Note(t, "panel", p.ID, "let a judge vote again", why, asked, set); err != nil {
			return PanelSheet{}, err
		}
		return sheetOf(t, id)
	})
}

// TakeBack takes a panel back with its reason: it counts no more. One that had not closed keeps its key.
func (w *Tasks) TakeBack(ctx context.Context, id, why string) (PanelSheet, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (PanelSheet, error) {
		p, err := t.Panel(id)
		if err != nil {
			return PanelSheet{}, err
		}
		if p.TakenBackMS != nil {
			return PanelSheet{}, fmt.Errorf("panel %s was taken back before: %w", p.Code, bench.ErrConflict)
		}
		if why = strings.TrimSpace(why); why == "" {
			return PanelSheet{}, quantity.Errorf("why", "is missing; say why the panel counts no more")
		}
		before := p
		p.TakenBackMS, p.TakenBackWhy = quantity.Ptr(w.NowMS()), why
		if err := w.put(t, before, p, "take the panel back", why); err != nil {
			return PanelSheet{}, err
		}
		return sheetOf(t, id)
	})
}
