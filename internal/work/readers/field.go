package readers

import (
	"math"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/finding"
	"ojime/internal/core/quantity"
	"ojime/internal/core/verdict"
	"ojime/internal/say"
	"ojime/internal/store"
	"ojime/internal/work/money"
	"ojime/internal/work/reviews"
)

// Keys of what can be weighed beside the rows of a comparison; livedOf begins a scale of living with the machine.
const (
	ofPrice    = "price"
	ofPiece    = "per_piece"
	ofCost     = "cost"
	livedOf    = "lived "
	zForNinety = 1.959963984540054 // half the width of an interval at 95 %, in standard errors
)

// ReaderMeasure is something that can be weighed, in its unit, and of which pieces.
type ReaderMeasure struct {
	Key    string   `json:"key"`
	Label  string   `json:"label"`
	Unit   string   `json:"unit"`
	Pieces []string `json:"pieces"`
}

// field is the set-ups of a review with everything that may be weighed of them.
type field struct {
	t        *store.Tx
	currency string
	options  []reviews.SetUp
	names    []string
	contests []reviews.Contest
	prices   []*float64
	measures []ReaderMeasure
}

func fieldOf(t *store.Tx, setups []reviews.SetUp, contests []reviews.Contest, nowMS int64) (field, error) {
	f := field{t: t, options: reviews.AcrossPieces(setups), contests: contests, measures: []ReaderMeasure{}}
	settings, err := t.Settings()
	if err != nil {
		return f, err
	}
	f.currency = settings.Currency
	sides := make([]finding.Side, len(f.options))
	var ids []string
	for i, o := range f.options {
		sides[i] = finding.Side{Name: o.Name, Machine: o.Machine, Resin: o.Resin, Settings: o.Settings, Label: o.Label}
		if !slices.Contains(ids, o.MachineID) {
			ids = append(ids, o.MachineID)
		}
	}
	table, err := money.Table(t, ids, nowMS)
	if err != nil {
		return f, err
	}
	for _, o := range f.options {
		f.prices = append(f.prices, table.Machines[slices.Index(ids, o.MachineID)].Alike.Total)
	}
	f.names = finding.Names(sides)
	f.list()
	return f, nil
}

// list gathers what can be weighed: the price, the time and cost of a piece, living with the machine, and every row of the
// comparisons.
func (f *field) list() {
	add := func(key, label, unit, piece string) {
		at := slices.IndexFunc(f.measures, func(m ReaderMeasure) bool { return m.Key == key })
		if at < 0 {
			at, f.measures = len(f.measures), append(f.measures, ReaderMeasure{key, label, unit, []string{}})
		}
		if piece != "" && !slices.Contains(f.measures[at].Pieces, piece) {
			f.measures[at].Pieces = append(f.measures[at].Pieces, piece)
		}
	}
	add(ofPrice, "Price of the machine, equipped alike", f.currency, "")
	for _, c := range f.contests {
		add(ofPiece, "Time a piece, at the fills printed", "min", c.PieceID)
		for _, m := range c.Results[0].Measures {
			unit, _ := m.ReadIn(f.currency)
			add(m.Key, m.Label, unit, c.PieceID)
		}
		for _, l := range c.Results[0].Lived {
			add(livedOf+l.Scale, l.Name, "of 0 to 4", "")
		}
	}
}

// label is what a measure is called, and its unit; empty where the review has none of its key.
func (f field) measure(key string) (ReaderMeasure, bool) {
	at := slices.IndexFunc(f.measures, func(m ReaderMeasure) bool { return m.Key == key })
	if at < 0 {
		return ReaderMeasure{}, false
	}
	return f.measures[at], true
}

// reached is a value of an option, in the unit in which people say it, with its interval, nil where there is none.
type reached struct {
	value float64
	ci    *quantity.Interval
	// holds are what a cost is made up of, each that is not 0; empty of other values.
	holds []string
}

// values are those of all options, nil where one is not known. Over all pieces each piece counts alike, and only those count
// that every option printed: else one would be held to harder pieces than another.
func (f field) values(key, pieceID string) []*reached {
	out := make([]*reached, len(f.options))
	if key == ofPrice {
		for i, p := range f.prices {
			if p != nil {
				out[i] = &reached{value: *p}
			}
		}
		return out
	}
	var of [][]*reached
	for _, c := range f.contests {
		if pieceID == "" || c.PieceID == pieceID {
			of = append(of, f.inContest(c, key))
		}
	}
	whole := slices.DeleteFunc(slices.Clone(of), func(l []*reached) bool { return slices.Contains(l, nil) })
	if len(whole) == 0 && len(of) > 0 { // no piece shows it of all: the one that shows it of most
		return slices.MaxFunc(of, func(a, b []*reached) int { return knownOf(a) - knownOf(b) })
	}
	for i := range out {
		out[i] = meanOf(whole, i)
	}
	return out
}

func knownOf(l []*reached) (n int) {
	for _, r := range l {
		if r != nil {
			n++
		}
	}
	return n
}

// meanOf is the mean of an option over pieces. Each side of its interval comes from that side of the pieces' intervals (the
// method of variance estimates recovery), so that none runs beyond what can be.
func meanOf(of [][]*reached, option int) *reached {
	if len(of) == 0 {
		return nil
	}
	n, sum, below, above, sure := float64(len(of)), 0.0, 0.0, 0.0, true
	for _, l := range of {
		sum += l[option].value
		if r := l[option]; r.ci != nil {
			below, above = below+math.Pow(r.value-r.ci[0], 2), above+math.Pow(r.ci[1]-r.value, 2)
		} else {
			sure = false
		}
	}
	out := &reached{value: sum / n, holds: slices.Clone(of[0][option].holds)}
	for _, l := range of { // a part is in the mean where it is in all of it
		out.holds = slices.DeleteFunc(out.holds, func(part string) bool { return !slices.Contains(l[option].holds, part) })
	}
	if sure {
		out.ci = &quantity.Interval{out.value - math.Sqrt(below)/n, out.value + math.Sqrt(above)/n}
	}
	return out
}

// inContest are the values of the options on one piece.
func (f field) inContest(c reviews.Contest, key string) []*reached {
	out := make([]*reached, len(f.options))
	for i, o := range f.options {
		at := slices.IndexFunc(c.SetUps, func(s reviews.SetUp) bool { return s.ReferenceID == "" && s.Ref() == o.Ref() })
		if at >= 0 {
			out[i] = f.side(c, key, at)
		}
	}
	return out
}

func (f field) side(c reviews.Contest, key string, at int) *reached {
	first := c.Results[0]
	if key == ofPiece {
		if s := first.Sides[at].PerPieceS; s != nil {
			return &reached{value: *s / 60}
		}
		return nil
	}
	if scale, lived := strings.CutPrefix(key, livedOf); lived {
		for _, l := range first.Lived {
			if l.Scale == scale && l.Sides[at] != nil {
				return &reached{value: float64(l.Sides[at].Score)}
			}
		}
		return nil
	}
	for _, m := range first.Measures {
		if m.Key != key || m.Sides[at].Value == nil {
			continue
		}
		_, per := m.ReadIn(f.currency)
		r := &reached{value: *m.Sides[at].Value / per}
		if ci := m.Sides[at].CI; ci != nil {
			r.ci = &quantity.Interval{ci[0] / per, ci[1] / per}
		}
		if paid := first.Sides[at].Cost; key == ofCost && paid != nil {
			for _, p := range paid.Parts {
				if p.Cost > 0 {
					r.holds = append(r.holds, p.Name)
				}
			}
		}
		return r
	}
	return nil
}

// says is a value in words.
func (r reached) says(unit string) string {
	text := say.InUnit(say.Figure(r.value), unit)
	if r.ci != nil {
		text += " (" + say.Interval(r.ci[0], r.ci[1], unit) + ")"
	}
	return text
}

// weighed are values as they are ranked: one without an interval counts as exact.
func weighed(of []*reached) verdict.Values {
	out := make(verdict.Values, len(of))
	for i, r := range of {
		if r == nil {
			continue
		}
		out[i] = &verdict.Value{Value: r.value}
		if r.ci != nil {
			out[i].SD = quantity.Ptr((r.ci[1] - r.ci[0]) / 2 / zForNinety)
		}
	}
	return out
}

// wanted is a wish of an example with the review's own measure, as far as it has one.
func (f field) wanted(w verdict.Wish) bench.ReaderCriterion {
	return bench.ReaderCriterion{Measure: f.family(w.Family), Name: w.Name, Weight: w.Weight, Worst: w.Worst, Best: w.Best}
}

// family is the first measure of a family, or the family itself where the review has none.
func (f field) family(key string) string {
	for _, m := range f.measures {
		if m.Key == key || strings.HasPrefix(m.Key, key+" ") {
			return m.Key
		}
	}
	return key
}
