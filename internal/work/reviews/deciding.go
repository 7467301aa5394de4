package reviews

import (
	"cmp"
	"context"
	"fmt"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/core/stress"
	"ojime/internal/say"
	"ojime/internal/store"
	"ojime/internal/work/compare"
	"ojime/internal/work/inspect"
	"ojime/internal/work/kit"
	"ojime/internal/work/task"
)

// Decidable is what a review may declare to decide, before or after anything was printed:
// measures of its pieces, and the set-ups on record or planned. Declared says what stands,
// in words.
type Decidable struct {
	Measures []DecidableMeasure `json:"measures"`
	SetUps   []DecidableSetUp   `json:"set_ups"`
	Declared []string           `json:"declared"`
	// Prints is how many of its prints are on record now.
	Prints int64 `json:"prints"`
}

// DecidableMeasure is a measure by its key and name.
type DecidableMeasure struct {
	Key   string `json:"key"`
	Label string `json:"label"`
}

// DecidableSetUp is a set-up with its name, and what tells it apart.
type DecidableSetUp struct {
	Ref   bench.SetUpRef `json:"ref"`
	Label string         `json:"label"`
	About string         `json:"about"`
}

// Decidable lists what a review may declare.
func (w *Tasks) Decidable(ctx context.Context, reviewID string) (out Decidable, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		out, err = DecidableOf(t, reviewID)
		return err
	})
	return out, err
}

// DecidableOf is Decidable within a transaction.
func DecidableOf(t *store.Tx, reviewID string) (Decidable, error) {
	out := Decidable{Measures: []DecidableMeasure{}, SetUps: []DecidableSetUp{}}
	review, err := t.Review(reviewID)
	if err != nil {
		return out, err
	}
	if out.Measures, err = decidableMeasures(t, review); err != nil {
		return out, err
	}
	if out.SetUps, err = decidableSetUps(t, review); err != nil {
		return out, err
	}
	runs, err := ReviewMembers(t, review)
	out.Prints, out.Declared = int64(len(runs)), out.words(review.Deciding)
	return out, err
}

func decidableMeasures(t *store.Tx, review bench.Review) ([]DecidableMeasure, error) {
	out := []DecidableMeasure{{"failures", "Failures, all"}, {"failures_machine", "Failures laid to the machine"}, {"marks", "Marked in printing, usable"}, {"blemished", "With a blemish of finish"}, {compare.DecidingTime, "Time of a plate"}}
	if slices.Contains(review.UnderTest, "resin") && !slices.Contains(review.UnderTest, "machine") {
		out[1] = DecidableMeasure{"failures_resin", "Failures laid to the resin"}
	}
	for _, id := range review.PieceIDs {
		piece, err := t.Piece(id)
		if err != nil {
			return nil, err
		}
		features, err := t.FeaturesOfPiece(id)
		if err != nil {
			return nil, err
		}
		for _, f := range features {
			key := map[string]string{"dimension": "size ", "pins": "ladder ", "gaps": "ladder ", "checkpoint": "checkpoint "}[f.Kind]
			if key != "" {
				out = append(out, DecidableMeasure{key + f.ID, f.Name + " of " + piece.Name})
			}
		}
	}
	scales, err := inspect.AllScales(t)
	for _, s := range scales {
		out = append(out, DecidableMeasure{compare.RatingOf + s.Key, s.Name + ", as rated"})
	}
	for _, m := range compare.PhotoMeasures {
		out = append(out, DecidableMeasure{compare.PhotoOf + m.Kind, m.Name + ", on photographs"})
	}
	for _, k := range stress.Kinds {
		out = append(out, DecidableMeasure{compare.StressOf + k.Key, k.Name + ", as stressed"})
	}
	return out, err
}

// decidableSetUps are those on record, and those that only a plan holds.
func decidableSetUps(t *store.Tx, review bench.Review) ([]DecidableSetUp, error) {
	setups, err := SetUps(t, review)
	if err != nil {
		return nil, err
	}
	setups = printed(setups)
	out := []DecidableSetUp{}
	add := func(s SetUp) {
		if !slices.ContainsFunc(out, func(o DecidableSetUp) bool { return o.Ref == s.Ref() }) {
			out = append(out, DecidableSetUp{s.Ref(), s.Label, s.About})
		}
	}
	for _, s := range setups {
		add(s)
	}
	plans, err := t.PlansOfReview(review.ID)
	if err != nil || len(review.PieceIDs) == 0 {
		return out, err
	}
	lookup := kit.NewLookup(t)
	for _, plan := range plans {
		plates, err := t.PlatesOfReviewPlan(plan.ID)
		if err != nil {
			return nil, err
		}
		for _, plate := range plates {
			if !plate.Open() || plate.ProfileID == nil || slices.ContainsFunc(out, func(o DecidableSetUp) bool { return o.Ref.ProfileID == *plate.ProfileID }) {
				continue
			}
			profile, err := lookup.Profile(*plate.ProfileID)
			if err != nil {
				return nil, err
			}
			s, err := newSetUp(lookup, bench.Run{MachineID: plate.MachineID, ResinID: profile.ResinID, ProfileID: profile.ID}, review.PieceIDs[0])
			if err != nil {
				return nil, err
			}
			s.call(review)
			add(s)
		}
	}
	slices.SortStableFunc(out, func(a, b DecidableSetUp) int {
		placeA, _ := review.SetUps.At(a.Ref)
		placeB, _ := review.SetUps.At(b.Ref)
		return cmp.Compare(placeA, placeB)
	})
	return out, nil
}

func (d Decidable) measure(key string) (string, bool) {
	for _, m := range d.Measures {
		if m.Key == key {
			return m.Label, true
		}
	}
	return "", false
}

func (d Decidable) setUp(ref *bench.SetUpRef) (string, bool) {
	for _, s := range d.SetUps {
		if ref != nil && s.Ref == *ref {
			return s.Label, true
		}
	}
	return "a set-up that is no longer on record", false
}

// words say what was declared, each time it was.
func (d Decidable) words(declared bench.Declarations) []string {
	out := []string{}
	for _, one := range declared {
		when := fmt.Sprintf("On %s, with %s of it on record, ", say.Day(one.DeclaredMS), say.Counted(one.Prints, "print"))
		if one.Measure == "" {
			out = append(out, when+"it was declared that no measure decides.")
			continue
		}
		against, _ := d.setUp(one.Against)
		what := "all set-ups"
		if one.Of != nil {
			what, _ = d.setUp(one.Of)
		}
		out = append(out, fmt.Sprintf("%s%s was declared to decide, for %s against %s.", when, strings.ToLower(one.Label[:1])+one.Label[1:], what, against))
	}
	return out
}

// Declare says which measure decides a review, for all set-ups against one or for one pair;
// without a measure none does. What was declared before stays on record, and how many
// prints there were.
func (w *Tasks) Declare(ctx context.Context, reviewID string, d bench.Declaration) (bench.Review, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (bench.Review, error) {
		review, err := t.Review(reviewID)
		if err != nil {
			return review, err
		}
		known, err := DecidableOf(t, reviewID)
		if err != nil {
			return review, err
		}
		if d.Measure == "" {
			d.Label, d.Against, d.Of = "", nil, nil
			if review.Deciding.Stands() == nil {
				return review, fmt.Errorf("nothing is declared that could be taken back: %w", bench.ErrConflict)
			}
		} else if err := known.check(&d); err != nil {
			return review, err
		}
		d.DeclaredMS, d.Prints = w.NowMS(), known.Prints
		after := review
		after.Deciding = append(slices.Clone(review.Deciding), d)
		return w.keepReview(t, review, after, "declare what decides", "")
	})
}

func (d Decidable) check(one *bench.Declaration) error {
	var known bool
	if one.Label, known = d.measure(one.Measure); !known {
		return quantity.Errorf("measure", "%.60q is none of this review; choose one that it lists", one.Measure)
	}
	if _, known := d.setUp(one.Against); !known {
		return quantity.Errorf("against", "names no set-up of this review; choose the one that all others are set against")
	}
	if one.Of == nil {
		return nil
	}
	if _, known := d.setUp(one.Of); !known || *one.Of == *one.Against {
		return quantity.Errorf("of", "names no other set-up of this review; choose one, or all")
	}
	return nil
}

// NameSetUps gives a review's set-ups their names and their order.
func (w *Tasks) NameSetUps(ctx context.Context, reviewID string, names bench.SetUpNames) (bench.Review, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (bench.Review, error) {
		review, err := t.Review(reviewID)
		if err != nil {
			return review, err
		}
		kept := bench.SetUpNames{}
		for i, n := range names {
			n.Name = strings.TrimSpace(n.Name)
			for _, o := range kept {
				if o.SetUpRef == n.SetUpRef || n.Name != "" && o.Name == n.Name {
					return review, quantity.Errorf(fmt.Sprintf("names[%d]", i), "%.40q stands twice; give each set-up a name of its own", n.Name)
				}
			}
			kept = append(kept, n)
		}
		after := review
		after.SetUps = kept
		return w.keepReview(t, review, after, "name set-ups", "")
	})
}

// keepReview keeps what a command changed of a review.
func (w *Tasks) keepReview(t *store.Tx, before, after bench.Review, command, why string) (bench.Review, error) {
	after.Version = before.Version + 1
	if beyond := bench.Beyond(after); len(beyond) > 0 {
		return before, beyond[0]
	}
	if err := w.Note(t, "review", after.ID, command, why, before, after); err != nil {
		return before, err
	}
	return after, t.SaveReview(after)
}
