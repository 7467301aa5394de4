package resincard

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/detail"
	"ojime/internal/core/evidence"
	"ojime/internal/core/rating"
	"ojime/internal/core/stats"
	"ojime/internal/core/stress"
	"ojime/internal/core/viewing"
	"ojime/internal/say"
	"ojime/internal/work/printing"
)

// nested is a mean over prints with its interval, as words, with its n.
func nested(side evidence.NestedSide, unit string, of ...string) (value, n string, err error) {
	r, err := evidence.Nested(evidence.NestedInput{A: side})
	if err != nil {
		return "", "", err
	}
	value = strings.TrimSpace(say.Figure(r.A.MeanMM) + " " + unit)
	if r.A.CI != nil {
		value += fmt.Sprintf(" (%s)", strings.TrimSpace(say.Interval(r.A.CI[0], r.A.CI[1], unit)))
	}
	return value, fmt.Sprintf("%s, %s", say.Counted(r.A.Prints, "print"), say.Counted(r.A.Specimens, of[0], of[1:]...)), nil
}

// seat is what figures of one kind have in common: they are brought together, and only they.
type seat struct{ what, conditions string }

// gathered brings what prints show together by what they have in common.
func (k known) gathered(on func(*printing.RunSheet, func(seat, []float64)) error) (map[seat]evidence.NestedSide, []seat, error) {
	out := map[seat]evidence.NestedSide{}
	for _, s := range k.sheets {
		prints := map[seat]evidence.NestedPrint{}
		if err := on(s, func(at seat, values []float64) {
			p := prints[at]
			p.Specimens = append(p.Specimens, evidence.NestedSpecimen{ValuesMM: values})
			prints[at] = p
		}); err != nil {
			return nil, nil, err
		}
		for at, p := range prints {
			side := out[at]
			side.Prints = append(side.Prints, p)
			out[at] = side
		}
	}
	var seats []seat
	for at := range out {
		seats = append(seats, at)
	}
	slices.SortFunc(seats, func(a, b seat) int {
		return cmp.Or(cmp.Compare(a.what, b.what), cmp.Compare(a.conditions, b.conditions))
	})
	return out, seats, nil
}

// stiffness is by cure: that is what it hangs on.
func (k known) stiffness() ([]ResinFigure, *ResinMissing, error) {
	of, seats, err := k.gathered(func(s *printing.RunSheet, add func(seat, []float64)) error {
		for _, v := range s.Stressed {
			bar, measured := v.Bar()
			if v.Series.Kind != stress.Stiffness || !measured {
				continue
			}
			mpa, _, err := v.Series.Plan().Moduli(v.SpecimenID, bar, bench.ShownTests(v.Tests))
			if err != nil {
				return err
			}
			if len(mpa) > 0 {
				add(seat{"Stiffness in bending", fmt.Sprintf("cured %s, %s", cured(s.Run), v.Series.Under)}, []float64{stats.Mean(mpa)})
			}
		}
		return nil
	})
	if err != nil {
		return nil, nil, err
	}
	out := []ResinFigure{}
	for _, at := range seats {
		f := ResinFigure{What: at.what, Conditions: at.conditions, Source: "computed"}
		if f.Value, f.N, err = nested(of[at], "MPa", "bar"); err != nil {
			return nil, nil, err
		}
		out = append(out, f)
	}
	if len(out) == 0 {
		return out, &ResinMissing{"Stiffness", "print the bar of the generator and load it in a stress series"}, nil
	}
	return out, nil, nil
}

func cured(r bench.Run) string {
	if r.CureS == nil {
		return "for how long is not known"
	}
	return say.Duration(*r.CureS)
}

// stresses are all kinds of stress but the stiffness of bars: how many held at each level,
// and where half of the fresh ones do.
func (k known) stresses() ([]ResinFigure, *ResinMissing, error) {
	prints, seats := map[seat][]stress.Print{}, []seat{}
	kinds := map[seat]stress.Kind{}
	for _, s := range k.sheets {
		on := map[seat]stress.Print{}
		for _, v := range s.Stressed {
			kind, _ := stress.KindOf(v.Series.Kind)
			shown := bench.ShownTests(v.Tests)
			if kind.Measured || len(shown) == 0 {
				continue
			}
			at := seat{kind.Name, fmt.Sprintf("%s, %s, %s", v.Series.Under, v.Series.Stage, stress.ModeWords(v.Series.Mode))}
			_, of := v.Series.Plan().PrintsOf([]stress.Specimen{{ID: v.SpecimenID, Level: v.Level}}, shown)
			p := on[at]
			p.Fresh, p.Climbed = append(p.Fresh, of[""].Fresh...), append(p.Climbed, of[""].Climbed...)
			on[at], kinds[at] = p, kind
		}
		for at, p := range on {
			if prints[at] == nil {
				seats = append(seats, at)
			}
			prints[at] = append(prints[at], p)
		}
	}
	slices.SortFunc(seats, func(a, b seat) int {
		return cmp.Or(cmp.Compare(a.what, b.what), cmp.Compare(a.conditions, b.conditions))
	})
	out := []ResinFigure{}
	for _, at := range seats {
		var held []string
		for _, r := range stress.Rungs(prints[at]) {
			held = append(held, fmt.Sprintf("%s: %d of %d held", kinds[at].LevelWords(r.Level), r.Held, r.Of))
		}
		f := ResinFigure{What: at.what, Value: strings.Join(held, "; "), N: say.Counted(int64(len(prints[at])), "print"), Conditions: at.conditions, Source: "measured"}
		if half := kinds[at].HalfWords(stress.HalfOf(prints[at])); half != "" {
			f.Value += ". " + half
		}
		out = append(out, f)
	}
	if len(out) == 0 {
		return out, &ResinMissing{"What it bears", "let copies of a few prints fall, or bend them, in a stress series"}, nil
	}
	return out, nil, nil
}

// clarity is the finest lines that were told apart through a plaque of the generator, print
// by print the smallest in all its copies.
func (k known) clarity() ([]ResinFigure, *ResinMissing, error) {
	of, seats, err := k.gathered(func(s *printing.RunSheet, add func(seat, []float64)) error {
		for _, p := range s.Pieces {
			if p.Coupon.Params == nil || p.Coupon.Params.PlaqueMM == 0 {
				continue
			}
			var rungs []detail.Rung
			for _, r := range s.Bare() {
				if r.RungMM == nil || !isOf(s, r, p.ID) {
					continue
				}
				rungs = append(rungs, detail.Rung{SizeMM: *r.RungMM, Of: 1, Intact: map[bool]int64{true: 1}[*r.Intact]})
			}
			if finest := detail.SmallestWhole(rungs); finest != nil {
				add(seat{"Clarity: finest lines told apart", fmt.Sprintf("through a plaque of %s mm, cured %s", say.Figure(p.Coupon.Params.PlaqueMM), cured(s.Run))}, []float64{*finest})
			}
		}
		return nil
	})
	if err != nil {
		return nil, nil, err
	}
	out := []ResinFigure{}
	for _, at := range seats {
		f := ResinFigure{What: at.what, Conditions: at.conditions, Source: "measured"}
		if f.Value, f.N, err = nested(of[at], "mm", "plaque"); err != nil {
			return nil, nil, err
		}
		out = append(out, f)
	}
	if len(out) == 0 {
		return out, &ResinMissing{"Clarity", "print the plaque of the generator and read the line scale through it"}, nil
	}
	return out, nil, nil
}

// isOf reports that a reading is of a copy of a piece that is not set aside.
func isOf(s *printing.RunSheet, r bench.Reading, pieceID string) bool {
	return slices.ContainsFunc(s.Specimens, func(p bench.Specimen) bool {
		return p.ID == r.SpecimenID && p.PieceID == pieceID && !p.SetAside()
	})
}

// ratings are those on scales that tell of the resin, by station and stage; the reviewer's
// own scales are among them.
func (k known) ratings(scales []rating.Scale) ([]ResinFigure, *ResinMissing, error) {
	raters := map[seat][]string{}
	of, seats, err := k.gathered(func(s *printing.RunSheet, add func(seat, []float64)) error {
		for _, p := range s.Specimens {
			scores := map[seat][]float64{}
			for _, r := range s.Ratings {
				i := slices.IndexFunc(scales, func(o rating.Scale) bool { return o.Key == r.Scale })
				if r.Specimen() != p.ID || p.SetAside() || i < 0 || !scales[i].OfResin() {
					continue
				}
				at := seat{scales[i].Name, r.Sitting.View().StationWords() + ", " + r.Sitting.Stage}
				scores[at] = append(scores[at], float64(r.Score))
				if !slices.Contains(raters[at], r.Sitting.Rater) {
					raters[at] = append(raters[at], r.Sitting.Rater)
				}
			}
			for at, v := range scores {
				add(at, v)
			}
		}
		return nil
	})
	if err != nil {
		return nil, nil, err
	}
	out := []ResinFigure{}
	for _, at := range seats {
		side := of[at]
		side.Instrument.ResolutionMM = 1 // a step is the least that a scale tells apart
		f := ResinFigure{What: at.what, Conditions: "0 to 4, " + at.conditions, Source: "judged"}
		if f.Value, f.N, err = nested(side, "", "copy", "copies"); err != nil {
			return nil, nil, err
		}
		f.N += ", " + say.Counted(int64(len(raters[at])), "rater")
		out = append(out, f)
	}
	if len(out) == 0 {
		return out, &ResinMissing{"Tack, smell, stiffness in hand", "rate copies of it on those scales, in a stage: " + strings.Join(viewing.Stages[:3], ", ")}, nil
	}
	return out, nil, nil
}
