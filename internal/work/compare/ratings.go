package compare

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/contest"
	"ojime/internal/core/evidence"
	"ojime/internal/core/rating"
	"ojime/internal/core/viewing"
	"ojime/internal/say"
	"ojime/internal/work/printing"
	"ojime/internal/work/side"
)

// seat is what was judged and how: a piece on a scale, from a station, in a stage. Scores of
// different seats are never brought together.
type seat struct{ scale, stage, pieceID, station string }

// seatOf says the station in words, a loupe with its magnification.
func seatOf(r bench.Rated, pieceID string) seat {
	return seat{r.Scale, r.Sitting.Stage, pieceID, r.Sitting.View().StationWords()}
}

func (s seat) key() string {
	return RatingOf + strings.Join([]string{s.scale, s.stage, s.pieceID, s.station}, " ")
}

// seatOfKey reads the key of a measure that is of a rating.
func seatOfKey(key string) (s seat, ok bool) {
	rest, ok := strings.CutPrefix(key, RatingOf)
	parts := strings.SplitN(rest, " ", 4)
	if !ok || len(parts) < 4 {
		return s, false
	}
	return seat{parts[0], parts[1], parts[2], parts[3]}, true
}

// before reports that a seat is of an earlier stage of the same.
func (s seat) before(o seat) bool {
	earlier := viewing.CompareStages(s.stage, o.stage) < 0
	o.stage = s.stage
	return earlier && s == o
}

// ratings are scores over prints, specimens and ratings, by scale, station and stage. A step
// is the least that a scale tells apart.
func (t *table) ratings() error {
	of := gathered(t.sides, ratedOn)
	for _, scale := range t.scales {
		var seats []seat
		for at := range of {
			if at.scale == scale.Key {
				seats = append(seats, at)
			}
		}
		slices.SortFunc(seats, func(a, b seat) int {
			return cmp.Or(cmp.Compare(t.pieces[a.pieceID], t.pieces[b.pieceID]), cmp.Compare(a.station, b.station), viewing.CompareStages(a.stage, b.stage))
		})
		for _, at := range seats {
			name := t.label(bench.Feature{Name: scale.Name, PieceID: at.pieceID}, "")
			for i := range of[at] {
				of[at][i].Instrument.ResolutionMM = 1
			}
			measure, err := contest.Scores(at.key(), fmt.Sprintf("%s, %s, %s", name, at.station, at.stage), of[at], t.pairs)
			if err != nil {
				return err
			}
			t.add(measure, scale.Questions...)
		}
	}
	return nil
}

// gathered brings what is on single prints together by its seat, side by side.
func gathered[Seat comparable](sides []side.Prints, on func(*printing.RunSheet) map[Seat]evidence.NestedPrint) map[Seat][]evidence.NestedSide {
	out := map[Seat][]evidence.NestedSide{}
	for i, s := range sides {
		for _, sheet := range s.Sheets {
			for at, print := range on(sheet) {
				if out[at] == nil {
					out[at] = make([]evidence.NestedSide, len(sides))
				}
				out[at][i].Prints = append(out[at][i].Prints, print)
			}
		}
	}
	return out
}

// ratedOn are the scores on one print by seat, copy by copy; those set aside have none.
func ratedOn(sheet *printing.RunSheet) map[seat]evidence.NestedPrint {
	out := map[seat]evidence.NestedPrint{}
	for _, p := range sheet.Specimens {
		scores := map[seat][]float64{}
		if p.SetAside() {
			continue
		}
		for _, r := range sheet.Ratings {
			if r.Specimen() == p.ID {
				at := seatOf(r, p.PieceID)
				scores[at] = append(scores[at], float64(r.Score))
			}
		}
		for at, values := range scores {
			print := out[at]
			print.Specimens = append(print.Specimens, evidence.NestedSpecimen{ValuesMM: values})
			out[at] = print
		}
	}
	return out
}

// agreement says how far ratings of the same copy, from the same station and in the same
// stage, agree.
func agreement(sides []side.Prints) ([]string, error) {
	pairs := []rating.Twice{}
	for _, s := range sides {
		for _, sheet := range s.Sheets {
			of := map[seat][]int64{}
			for _, r := range sheet.Ratings {
				key := seatOf(r, r.Specimen())
				for _, other := range of[key] {
					pairs = append(pairs, rating.Twice{A: other, B: r.Score})
				}
				of[key] = append(of[key], r.Score)
			}
		}
	}
	if len(pairs) == 0 {
		return []string{}, nil
	}
	a, err := rating.Agree(pairs)
	if err != nil {
		return nil, err
	}
	return []string{fmt.Sprintf("Of %s of the same copy on the same scale %d %s the same and %d within one step (95 %%: %s to %s).", say.Counted(a.Pairs, "pair of ratings", "pairs of ratings"), a.Same,
		map[bool]string{true: "was", false: "were"}[a.Same == 1], a.WithinOne, say.Percent(a.NearRate.CI[0]), say.Percent(a.NearRate.CI[1]))}, nil
}

// stageSentences say where a difference that is seen in one stage is not shown in a later
// one, from the same station.
func stageSentences(measures []contest.Measure) []string {
	out := []string{}
	for _, m := range measures {
		at, rated := seatOfKey(m.Key)
		if !rated {
			continue
		}
		for _, later := range measures {
			then, rated := seatOfKey(later.Key)
			if !rated || !at.before(then) {
				continue
			}
			for i, p := range m.Pairs {
				q := later.Pairs[i]
				if p.Verdict != evidence.NotShown && q.Verdict == evidence.NotShown && q.Difference != nil {
					name, _, _ := strings.Cut(m.Label, ", ")
					out = append(out, fmt.Sprintf("%s, %s: the difference of %s and %s that is shown %s is not shown %s.", name, at.station, side.Letter(p.A), side.Letter(p.B), at.stage, then.stage))
				}
			}
		}
	}
	return out
}
