// Package disclosure keeps how things came to the reviewer and what else ties them to who makes or sells them, and says what a
// review has to disclose.
package disclosure

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work/kit"
	"ojime/internal/work/task"
)

// Tasks are the tasks of this step on one record.
type Tasks struct{ *task.Base }

// New makes them.
func New(base *task.Base) *Tasks { return &Tasks{base} }

// InterestShown is how a thing came, or another tie to who made it, in words.
type InterestShown struct {
	Interest bench.Interest `json:"interest"`
	Says     string         `json:"says"`
}

// Disclosed is a thing of a review with how it came and what ties the reviewer to its maker; Says is empty where nothing is on
// record.
type Disclosed struct {
	Kind string   `json:"kind" enum:"review,machine,resin,piece,reference"`
	ID   string   `json:"id"`
	Name string   `json:"name"`
	Says []string `json:"says"`
}

// subject is what an interest is in.
func subject(i bench.Interest) string {
	for _, id := range []*string{i.ReviewID, i.MachineID, i.ResinID, i.PieceID, i.ReferenceID} {
		if id != nil {
			return *id
		}
	}
	return ""
}

// Ties are the interests that stand, in words, by what they are in.
func Ties(t *store.Tx) (map[string][]string, error) {
	all, err := t.Interests()
	out := map[string][]string{}
	for _, i := range all {
		if i.TakenBackMS == nil {
			out[subject(i)] = append(out[subject(i)], i.Says())
		}
	}
	return out, err
}

// Interests lists how a thing came, also what was taken back.
func (w *Tasks) Interests(ctx context.Context, id string) (out []InterestShown, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		out, err = interestsOf(t, id)
		return err
	})
	return out, err
}

func interestsOf(t *store.Tx, id string) ([]InterestShown, error) {
	all, err := t.Interests()
	out := []InterestShown{}
	for _, i := range all {
		if subject(i) == id {
			out = append(out, InterestShown{i, i.Says()})
		}
	}
	return out, err
}

// Tie notes how a thing came, or another tie to who made it.
func (w *Tasks) Tie(ctx context.Context, i bench.Interest) ([]InterestShown, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) ([]InterestShown, error) {
		var err error
		if i.ID, err = w.NewID(); err != nil {
			return nil, err
		}
		i.AtMS, i.TakenBackMS, i.TakenBackWhy = w.NowMS(), nil, ""
		if err := i.Check(); err != nil {
			return nil, err
		}
		if beyond := bench.Beyond(i); len(beyond) > 0 {
			return nil, beyond[0]
		}
		if err := interestIn(t, i); err != nil {
			return nil, err
		}
		if err := t.SaveInterest(i); err != nil {
			return nil, err
		}
		return interestsOf(t, subject(i))
	})
}

// interestIn reports a thing that is not on record.
func interestIn(t *store.Tx, i bench.Interest) error {
	return task.OnRecord(
		task.Named{Field: "review_id", ID: i.ReviewID, Read: func(id string) error { _, err := t.Review(id); return err }},
		task.Named{Field: "machine_id", ID: i.MachineID, Read: func(id string) error { _, err := t.Machine(id); return err }},
		task.Named{Field: "resin_id", ID: i.ResinID, Read: func(id string) error { _, err := t.Resin(id); return err }},
		task.Named{Field: "piece_id", ID: i.PieceID, Read: func(id string) error { _, err := t.Piece(id); return err }},
		task.Named{Field: "reference_id", ID: i.ReferenceID, Read: func(id string) error { _, err := t.Reference(id); return err }},
	)
}

// TakeTieBack takes an interest back that was wrong, with its reason.
func (w *Tasks) TakeTieBack(ctx context.Context, id, why string) ([]InterestShown, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) ([]InterestShown, error) {
		all, err := t.Interests()
		if err != nil {
			return nil, err
		}
		at := slices.IndexFunc(all, func(i bench.Interest) bool { return i.ID == id })
		if at < 0 {
			return nil, fmt.Errorf("interest %s: %w", id, bench.ErrNotFound)
		}
		before := all[at]
		if before.TakenBackMS != nil {
			return nil, fmt.Errorf("this was taken back before: %w", bench.ErrConflict)
		}
		after := before
		after.TakenBackMS, after.TakenBackWhy = quantity.Ptr(w.NowMS()), why
		if err := w.Note(t, "interest", id, "take an interest back", why, before, after); err != nil {
			return nil, err
		}
		if err := t.SaveInterest(after); err != nil {
			return nil, err
		}
		return interestsOf(t, subject(after))
	})
}

// OfReview reads what a review has to disclose.
func (w *Tasks) OfReview(ctx context.Context, reviewID string) (out []Disclosed, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		review, err := t.Review(reviewID)
		if err != nil {
			return err
		}
		out, err = Of(t, review)
		return err
	})
	return out, err
}

// Of lists everything of a review with how it came: the review itself first, where anything ties it, then its
// machines, resins, pieces and references.
func Of(t *store.Tx, review bench.Review) ([]Disclosed, error) {
	ties, err := Ties(t)
	if err != nil {
		return nil, err
	}
	out := []Disclosed{}
	add := func(kind, id, name string, first ...string) {
		d := Disclosed{Kind: kind, ID: id, Name: name, Says: []string{}}
		for _, text := range append(first, ties[id]...) {
			if text = strings.TrimSuffix(strings.TrimSpace(text), "."); text != "" {
				d.Says = append(d.Says, text)
			}
		}
		out = append(out, d)
	}
	if len(ties[review.ID]) > 0 {
		add("review", review.ID, "This review")
	}
	lookup := kit.NewLookup(t)
	for _, id := range review.MachineIDs {
		m, err := lookup.Machine(id)
		if err != nil {
			return nil, err
		}
		unit, err := kit.UnitOf(t, id)
		if err != nil {
			return nil, err
		}
		add("machine", id, m.Name, kit.ProvenanceOf(unit, m))
	}
	for _, id := range review.ResinIDs {
		r, err := lookup.Resin(id)
		if err != nil {
			return nil, err
		}
		add("resin", id, r.Name)
	}
	for _, id := range review.PieceIDs {
		p, err := lookup.Piece(id)
		if err != nil {
			return nil, err
		}
		made := ""
		if p.Coupon.Params != nil {
			made = "made by this program"
		}
		add("piece", id, p.Name, made)
	}
	for _, id := range review.ReferenceIDs {
		r, err := t.Reference(id)
		if err != nil {
			return nil, err
		}
		add("reference", id, r.Name, r.Provenance)
	}
	return out, nil
}
