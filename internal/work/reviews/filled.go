package reviews

import (
	"context"
	"slices"
	"strings"

	"ojime/internal/core/contest"
	"ojime/internal/core/evidence"
	"ojime/internal/core/quantity"
	"ojime/internal/core/timing"
	"ojime/internal/store"
	"ojime/internal/work/compare"
	"ojime/internal/work/planning"
)

// Filled is the time of a piece on plates that were not printed, by the timing models, corrected by the prints compared. Letters
// are its sides: those with one set of settings. Says are sentences beside the table; where the model contradicts what was
// measured they say so, and there are no sides.
type Filled struct {
	PieceID string   `json:"piece_id"`
	Letters []string `json:"letters"`
	Says    []string `json:"says"`
	planning.FillPlot
}

// Filled is the time at other fills of each piece of a comparison, for up to so many copies.
func (w *Tasks) Filled(ctx context.Context, req compare.ComparisonRequest, copies int64) (out []Filled, err error) {
	c, err := w.Compare(ctx, req)
	if err != nil {
		return nil, err
	}
	out = []Filled{}
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		for _, p := range c.Pieces {
			f, err := FilledOf(t, w.planning, c, p.ID, copies)
			if err != nil {
				return err
			}
			if f != nil {
				out = append(out, *f)
			}
		}
		return nil
	})
	return out, err
}

// FilledOf is the time of a piece at other fills, learned from the compared prints alone: those that were left out, stopped, or
// set apart for temperature enter nothing. Where plates were measured on both of two sides, they are the answer, and the model
// says nothing of the pair. It is nil where fewer than two sides have one set of settings.
func FilledOf(t *store.Tx, planned *planning.Tasks, c compare.Comparison, pieceID string, copies int64) (*Filled, error) {
	f, options, at := &Filled{PieceID: pieceID, Letters: []string{}, Says: []string{}}, []planning.FillOption{}, []int{}
	for i, s := range c.Sides {
		if s.ProfileID != "" {
			f.Letters, at = append(f.Letters, s.Letter), append(at, i)
			options = append(options, planning.FillOption{ProfileID: s.ProfileID, RunIDs: c.Timed(i)})
		}
	}
	if len(options) < 2 {
		return nil, nil
	}
	var err error
	if f.FillPlot, err = planned.FillOf(t, pieceID, 100, options, copies); err != nil {
		return nil, err
	}
	times := timesOf(c.Measures)
	shown, measured := false, 0
	pairs := f.Pairs
	f.Pairs = []planning.FillPair{}
	for _, p := range pairs {
		m := measuredPair(times, at[p.A], at[p.B])
		if m == nil {
			f.Pairs = append(f.Pairs, p)
			continue
		}
		measured++
		shown = shown || m.Verdict != evidence.NotShown
		if contradicts(p.Result, *m, f.Sides[p.A], f.Sides[p.B]) {
			f.Sides, f.Pairs, f.Letters, f.Equal, f.Corrected = []planning.FillSide{}, f.Pairs[:0], f.Letters[:0], 0, ""
			f.Says = []string{"The timing model does not agree with the plates that were measured, so it gives no times of other plates."}
			return f, nil
		}
	}
	if f.Equal == 0 && measured == 0 {
		return nil, nil // nothing is known of two of them
	}
	if f.Corrected != "" {
		f.Says = append(f.Says, f.Corrected)
	}
	if measured > 0 {
		f.Says = append(f.Says, "Plates that were printed on both sides are compared by their measured times; the times here are of plates that were not printed.")
	}
	if measured > 0 && !shown {
		for i := range f.Sides {
			f.Sides[i].Week = nil
		}
		f.Says = append(f.Says, "No difference in time is shown, so none is given in pieces a week.")
	}
	return f, nil
}

// timesOf are the measured times of plates of a comparison.
func timesOf(measures []contest.Measure) (out []contest.Measure) {
	for _, m := range measures {
		if strings.HasPrefix(m.Key, compare.DecidingTime+" ") {
			out = append(out, m)
		}
	}
	return out
}

// measuredPair is how the times of two sides differ on plates that both printed; nil where there is no such plate. Of several
// kinds of plates it is their mean, which is the last measure of times. Two sides that are not set against each other, but both
// against a third, have the ratio of their times and no interval.
func measuredPair(times []contest.Measure, a, b int) *contest.Pair {
	for _, m := range slices.Backward(times) {
		for _, p := range m.Pairs {
			if p.Difference == nil {
				continue
			}
			if p.A == a && p.B == b {
				return &p
			}
			if p.A == b && p.B == a {
				turned := p
				turned.Difference = inverse(p.Difference)
				turned.CI = nil
				if p.CI != nil {
					turned.CI = &quantity.Interval{1 / p.CI[1], 1 / p.CI[0]}
				}
				return &turned
			}
		}
	}
	for _, m := range times {
		if ofA, ofB := m.Sides[a].Value, m.Sides[b].Value; ofA != nil && ofB != nil {
			ratio := *ofA / *ofB
			return &contest.Pair{A: a, B: b, Difference: &ratio, Verdict: evidence.NotShown}
		}
	}
	return nil
}

func inverse(ratio *float64) *float64 {
	out := 1 / *ratio
	return &out
}

// alikeWithin is how far a modelled ratio of times may lie from a measured one that has no interval, or a narrower one.
const alikeWithin = 1.03

// contradicts reports a modelled ratio of the time of one piece that the measured plates exclude. A laser's time hangs on what
// lies on the plate, so that its ratio of one piece may be another than that of a plate.
func contradicts(model timing.FillResult, measured contest.Pair, a, b planning.FillSide) bool {
	if a.Grows() || b.Grows() {
		return false
	}
	low, high := *measured.Difference/alikeWithin, *measured.Difference*alikeWithin
	if measured.CI != nil {
		low, high = min(low, measured.CI[0]), max(high, measured.CI[1])
	}
	return model.RatioOne < low || model.RatioOne > high
}
