package compare

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/audit"
	"ojime/internal/core/contest"
	"ojime/internal/core/evidence"
	"ojime/internal/core/quantity"
	"ojime/internal/core/setup"
	"ojime/internal/core/stats"
	"ojime/internal/core/stress"
	"ojime/internal/say"
	"ojime/internal/work/printing"
	"ojime/internal/work/side"
)

// ordeal is what specimens were put through and how: a piece, in a kind of stress, on or
// under something, in a stage of its surface. Those of different ones are never brought
// together.
type ordeal struct{ kind, stage, pieceID, under string }

func (o ordeal) key() string {
	return StressOf + strings.Join([]string{o.kind, o.stage, o.pieceID, o.under}, " ")
}

// Ordeal is what the sides bore of one stress, side by side, and what is to be known beside
// it. Series are those that it is from, by code, with why one ended early.
type Ordeal struct {
	Label  string       `json:"label"`
	Level  string       `json:"level"`
	Unit   string       `json:"unit"`
	Series []string     `json:"series"`
	Sides  []OrdealSide `json:"sides"`
	Says   []string     `json:"says"`
}

// OrdealSide is how many of a side's fresh specimens held at each level and where half do;
// MassG is the mean of their masses where all were weighed, Broke which parts broke.
type OrdealSide struct {
	Rungs  []OrdealRung       `json:"rungs"`
	Prints int                `json:"prints"`
	Half   *float64           `json:"half"`
	Beyond bool               `json:"beyond"`
	CI     *quantity.Interval `json:"ci"`
	MassG  *float64           `json:"mass_g"`
	Broke  string             `json:"broke"`
	// Climbed are the copies that went from level to level.
	Climbed stress.Climbed `json:"climbed"`
}

// OrdealRung is a level: of how many specimens how many held.
type OrdealRung struct {
	Level float64 `json:"level"`
	Held  int64   `json:"held"`
	Of    int64   `json:"of"`
}

// borne is what specimens of one print, or of all prints of a side, showed of one ordeal.
type borne struct {
	print  stress.Print
	bars   evidence.NestedPrint
	masses []*float64
	parts  []string
	series []string
}

// stresses are what specimens bore, ordeal by ordeal.
func (t *table) stresses() error {
	of, all := map[ordeal][][]borne{}, []ordeal{}
	for i, s := range t.sides {
		for _, sheet := range s.Sheets {
			on, err := borneOn(sheet)
			if err != nil {
				return err
			}
			for at, b := range on {
				if of[at] == nil {
					of[at], all = make([][]borne, len(t.sides)), append(all, at)
				}
				of[at][i] = append(of[at][i], b)
			}
		}
	}
	slices.SortFunc(all, func(a, b ordeal) int {
		return cmp.Or(cmp.Compare(a.kind, b.kind), cmp.Compare(t.pieces[a.pieceID], t.pieces[b.pieceID]), cmp.Compare(a.key(), b.key()))
	})
	for _, at := range all {
		if err := t.stressed(at, of[at]); err != nil {
			return err
		}
	}
	return nil
}

// borneOn is what the copies of one print bore; those set aside have none.
func borneOn(sheet *printing.RunSheet) (map[ordeal]borne, error) {
	out := map[ordeal]borne{}
	for _, p := range sheet.Specimens {
		for _, v := range sheet.Stressed {
			shown := bench.ShownTests(v.Tests)
			if v.SpecimenID != p.ID || p.SetAside() || len(shown) == 0 {
				continue
			}
			at := ordeal{v.Series.Kind, v.Series.Stage, p.PieceID, v.Series.Under}
			b := out[at]
			if err := b.take(v, shown); err != nil {
				return nil, err
			}
			out[at] = b
		}
	}
	return out, nil
}

// take adds a specimen in its series.
func (b *borne) take(v bench.Stressed, shown []stress.Test) error {
	if b.masses = append(b.masses, v.MassG); !slices.Contains(b.series, v.Series.Named()) {
		b.series = append(b.series, v.Series.Named())
	}
	for _, t := range v.Tests {
		if t.TakenBackMS == nil && t.Part != "" {
			b.parts = append(b.parts, t.Part)
		}
	}
	plan := v.Series.Plan()
	if bar, known := v.Bar(); known && v.Series.SpanMM != nil {
		mpa, _, err := plan.Moduli(v.SpecimenID, bar, shown)
		if err != nil {
			return err
		}
		if len(mpa) > 0 { // the loads of one bar are one value of it
			b.bars.Specimens = append(b.bars.Specimens, evidence.NestedSpecimen{ValuesMM: []float64{stats.Mean(mpa)}})
		}
	}
	_, of := plan.PrintsOf([]stress.Specimen{{ID: v.SpecimenID, Level: v.Level}}, shown)
	b.print.Fresh, b.print.Climbed = append(b.print.Fresh, of[""].Fresh...), append(b.print.Climbed, of[""].Climbed...)
	return nil
}

// stressed adds the rows of one ordeal.
func (t *table) stressed(at ordeal, of [][]borne) error {
	kind, _ := stress.KindOf(at.kind)
	label := t.label(bench.Feature{Name: fmt.Sprintf("%s, %s, %s", kind.Name, at.under, at.stage), PieceID: at.pieceID}, "")
	o := Ordeal{Label: label, Level: kind.Level, Unit: kind.Unit, Series: []string{}, Sides: make([]OrdealSide, len(of)), Says: []string{}}
	prints, bars := make([][]stress.Print, len(of)), make([]evidence.NestedSide, len(of))
	for i, side := range of {
		for _, b := range side {
			prints[i] = append(prints[i], b.print)
			if len(b.bars.Specimens) > 0 {
				bars[i].Prints = append(bars[i].Prints, b.bars)
			}
			for _, code := range b.series {
				if !slices.Contains(o.Series, code) {
					o.Series = append(o.Series, code)
				}
			}
		}
		o.Sides[i] = ordealSide(side, prints[i])
	}
	measures, err := stress.Measures(at.key(), label, kind, prints, t.pairs)
	if kind.Measured {
		var m contest.Measure
		m, err = contest.Levels(at.key(), label, "MPa", bars, t.pairs)
		measures = []contest.Measure{m}
	}
	if err != nil {
		return err
	}
	for _, m := range measures {
		t.add(m, audit.Strength)
	}
	o.Says = append(o.Says, t.besides(kind, o)...)
	t.ordeals = append(t.ordeals, o)
	return nil
}

func ordealSide(side []borne, prints []stress.Print) OrdealSide {
	out := OrdealSide{Rungs: []OrdealRung{}, Prints: len(side)}
	fresh, masses, broke := []stress.Print{}, []*float64{}, []string{}
	for i, b := range side {
		fresh, masses, broke = append(fresh, stress.Print{Fresh: prints[i].Fresh}), append(masses, b.masses...), append(broke, b.parts...)
	}
	for _, r := range stress.Rungs(fresh) {
		out.Rungs = append(out.Rungs, OrdealRung{r.Level, r.Held, r.Of})
	}
	out.Climbed = stress.ClimbedOf(prints)
	half := stress.HalfOf(fresh)
	out.Half, out.CI, out.Beyond, out.Broke = half.Level, half.CI, half.Beyond, stress.BrokeWords(broke)
	out.MassG = setup.MeanAll(masses, func(v *float64) *float64 { return v })
	return out
}

// besides is what has to be known beside an ordeal: where half hold, which parts broke, and
// that a heavier piece falls harder from the same height.
func (t *table) besides(kind stress.Kind, o Ordeal) (out []string) {
	for i, s := range o.Sides {
		if words := kind.HalfWords(stress.Half{Level: s.Half, CI: s.CI, Beyond: s.Beyond}); words != "" {
			out = append(out, fmt.Sprintf("%s: %s", side.Letter(i), words))
		}
		if s.Broke != "" {
			out = append(out, fmt.Sprintf("%s: broke %s.", side.Letter(i), s.Broke))
		}
	}
	if kind.Key != stress.Drop {
		return out
	}
	for _, at := range t.pairs {
		if heavier, matters := stress.Weights(o.Sides[at[0]].MassG, o.Sides[at[1]].MassG); matters {
			out = append(out, fmt.Sprintf("A copy of %s weighs %s, one of %s %s (%s): from the same height that is not the same fall.", side.Letter(at[0]), say.Figure(*o.Sides[at[0]].MassG)+" g",
				side.Letter(at[1]), say.Figure(*o.Sides[at[1]].MassG)+" g", say.Percent(heavier)))
		}
	}
	return out
}
