// Package contest sets the sides of a comparison against each other, measure by measure,
// with the print as the unit: what each side shows, how pairs of sides differ, and what
// is left of every p once all that stand in the same table are counted.
package contest

import (
	"fmt"
	"math"
	"strings"

	"ojime/internal/core/evidence"
	"ojime/internal/core/quantity"
	"ojime/internal/core/setup"
	"ojime/internal/say"
)

// Kinds of measures: how two sides differ.
const (
	Share  = "share"  // rates, 0 to 1: their difference
	Length = "length" // millimetres: their difference
	Score  = "score"  // steps of a scale, 0 to 4: their difference
	Time   = "time"   // seconds: their ratio
	Money  = "money"  // the reviewer's currency: no test
	Level  = "level"  // in a unit of its own, such as a height or an angle: their difference
)

// OnePrint is what is noted of a length that one print alone shows.
const OnePrint = "One print tells of that print alone."

// Estimate is what one side shows of a measure; Value is nil, with a note why, where it
// is not known. UpperIfNone is what a rate of none seen may still be. A value of no prints is
// that of a reference, which no print on record made.
type Estimate struct {
	Value       *float64           `json:"value"`
	CI          *quantity.Interval `json:"ci"`
	UpperIfNone *float64           `json:"upper_if_none"`
	Events      *int64             `json:"events"`
	Prints      int64              `json:"prints"`
	Specimens   int64              `json:"specimens"`
	Readings    int64              `json:"readings"`
	Note        string             `json:"note"`
}

// Pair is two sides by index: Difference is A less B, or A over B of a time. PAdjusted is
// Holm's among all p of the table, or among those declared to decide, LeastP the least p that so many prints could give after
// that adjustment, PrintsNeeded how many a side would do, and the verdict follows PAdjusted.
type Pair struct {
	A            int                `json:"a"`
	B            int                `json:"b"`
	Difference   *float64           `json:"difference"`
	CI           *quantity.Interval `json:"ci"`
	P            *float64           `json:"p"`
	PAdjusted    *float64           `json:"p_adjusted"`
	LeastP       *float64           `json:"least_p"`
	PrintsNeeded *int64             `json:"prints_needed"`
	// Kinds is over how many kinds of plates or pieces that both sides have the difference
	// is a mean; 0 where nothing had to be matched.
	Kinds int64 `json:"kinds"`
	// Declared says that it was declared to decide, so that its p is adjusted among those
	// declared alone.
	Declared bool `json:"declared"`
	// CanShow is false where so few prints could not have shown anything, whatever came out.
	CanShow bool   `json:"can_show"`
	Verdict string `json:"verdict"`
	Reason  string `json:"reason"`
}

// Measure is one row of a comparison over all sides.
type Measure struct {
	Key   string `json:"key"`
	Label string `json:"label"`
	Kind  string `json:"kind" enum:"share,length,score,time,money,level"`
	// Unit is that of levels; others have that of their kind.
	Unit string `json:"unit"`
	// Signed says that lengths are errors, read with their sign; Matters is the difference
	// that matters, where one is stated.
	Signed  bool     `json:"signed"`
	Matters *float64 `json:"matters"`
	// SmallestMM is the least difference of two single readings that is not the instrument's
	// own, by a repeatability study; 0 where there was none.
	SmallestMM float64 `json:"smallest_mm"`
	// Questions are those that the measure answers.
	Questions []string `json:"questions"`
	// Alike says that every side shows the same and nothing needs to be read twice.
	Alike bool       `json:"alike"`
	Sides []Estimate `json:"sides"`
	Pairs []Pair     `json:"pairs"`
}

// AllAlike reports that every side is known and shows the same value, so that what was
// measured told no two of them apart.
func (m Measure) AllAlike() bool {
	for _, s := range m.Sides {
		if s.Value == nil || !quantity.Equal(*s.Value, *m.Sides[0].Value) {
			return false
		}
	}
	return len(m.Sides) > 0
}

// From is over how many prints an estimate is, in words.
func (e Estimate) From() string {
	if e.Prints == 0 && e.Value != nil {
		return "a reference"
	}
	return say.Counted(e.Prints, "print")
}

// Between are the pairs of sides that are compared: all against a baseline, or each with
// each other where it is negative.
func Between(sides, baseline int) (out [][2]int) {
	for b := range sides {
		for a := range sides {
			if a != b && (b == baseline || baseline < 0 && a > b) {
				out = append(out, [2]int{a, b})
			}
		}
	}
	return out
}

// Rates are shares of judged specimens over prints: failures, marks, checkpoints. Matters
// is the difference that would matter (nil: a fifth).
func Rates(key, label string, sides [][]evidence.PrintCount, pairs [][2]int, matters *float64) (Measure, error) {
	m := Measure{Key: key, Label: label, Kind: Share, Matters: quantity.Ptr(quantity.Or(matters, evidence.UsualMatters)), Pairs: []Pair{}}
	for _, prints := range sides {
		if len(prints) == 0 {
			m.Sides = append(m.Sides, Estimate{Note: "No print is judged."})
			continue
		}
		r, err := evidence.Prints(evidence.PrintsInput{A: prints, Matters: matters})
		if err != nil {
			return m, err
		}
		e := Estimate{Value: &r.A.Rate, CI: &r.A.CI, UpperIfNone: r.A.UpperIfNone, Events: &r.A.Failed, Prints: r.A.Prints, Specimens: r.A.Specimens}
		if r.Has("assumed_clustering") {
			e.Note = "How far copies of one print share its fate is assumed."
		}
		m.Sides = append(m.Sides, e)
	}
	for _, at := range pairs {
		pair := Pair{A: at[0], B: at[1], Verdict: evidence.NotShown, Reason: "A side has no judged print."}
		if len(sides[at[0]]) > 0 && len(sides[at[1]]) > 0 {
			r, err := evidence.Prints(evidence.PrintsInput{A: sides[at[0]], B: sides[at[1]], Matters: matters})
			if err != nil {
				return m, err
			}
			pair = Pair{A: at[0], B: at[1], Difference: r.Difference, CI: r.CI, P: r.P, LeastP: r.LeastP, PrintsNeeded: r.PrintsNeeded, Verdict: *r.Verdict}
		}
		m.Pairs = append(m.Pairs, pair)
	}
	return m, nil
}

// Present turns rates of what is not there round, into shares of what is.
func Present(m Measure) Measure {
	turned := func(ci *quantity.Interval, about float64) *quantity.Interval {
		if ci == nil {
			return nil
		}
		return &quantity.Interval{about - ci[1], about - ci[0]}
	}
	for i := range m.Sides {
		if s := &m.Sides[i]; s.Value != nil {
			s.Value, s.CI, s.UpperIfNone, s.Events = quantity.Ptr(1-*s.Value), turned(s.CI, 1), nil, quantity.Ptr(s.Specimens-*s.Events)
		}
	}
	for i := range m.Pairs {
		if p := &m.Pairs[i]; p.Difference != nil {
			p.Difference, p.CI = quantity.Ptr(-*p.Difference), turned(p.CI, 0)
		}
	}
	return m
}

// Errors are Lengths less their nominal size, with their sign.
func Errors(key, label string, sides []evidence.NestedSide, nominalMM float64, pairs [][2]int) (Measure, error) {
	m, err := Lengths(key, label, sides, nominalMM, pairs)
	m.Signed = true
	return m, err
}

// Lengths are values in millimetres over prints, specimens and readings; Nominal is taken
// off what a side shows, so that it reads as an error (0 for none).
func Lengths(key, label string, sides []evidence.NestedSide, nominalMM float64, pairs [][2]int) (Measure, error) {
	m := Measure{Key: key, Label: label, Kind: Length, Pairs: []Pair{}}
	for _, s := range sides {
		if len(s.Prints) == 0 {
			m.Sides = append(m.Sides, Estimate{Note: "Not read."})
			continue
		}
		r, err := evidence.Nested(evidence.NestedInput{A: s})
		if err != nil {
			return m, err
		}
		e := Estimate{Value: quantity.Ptr(r.A.MeanMM - nominalMM), Prints: r.A.Prints, Specimens: r.A.Specimens, Readings: r.A.Readings}
		if r.A.CI != nil {
			e.CI = &quantity.Interval{r.A.CI[0] - nominalMM, r.A.CI[1] - nominalMM}
		} else {
			e.Note = OnePrint
		}
		m.Sides = append(m.Sides, e)
	}
	for _, at := range pairs {
		a, b := sides[at[0]], sides[at[1]]
		pair := Pair{A: at[0], B: at[1], Verdict: evidence.NotShown, Reason: notRead}
		if len(a.Prints) > 0 && len(b.Prints) > 0 {
			r, err := evidence.Nested(evidence.NestedInput{A: a, B: &b})
			if err != nil {
				return m, err
			}
			pair = Pair{A: at[0], B: at[1], Difference: r.DifferenceMM, CI: r.CI, P: r.P, Verdict: *r.Verdict}
			if r.P == nil {
				pair.Reason = "A side has one print, which cannot tell the set-up from its luck."
			}
		}
		m.Pairs = append(m.Pairs, pair)
	}
	return m, nil
}

// NotBelowZero is a measure of which no value lies below 0, such as errors by their size alone: so no interval of a side does.
// Differences are left as they are.
func NotBelowZero(m Measure) Measure {
	for i := range m.Sides {
		if e := &m.Sides[i]; e.CI != nil {
			e.CI = &quantity.Interval{max(0, e.CI[0]), e.CI[1]}
		}
	}
	return m
}

// Scores are steps of a scale of 0 to 4, over prints, specimens and ratings: with a step as
// the resolution, since between two steps a scale tells nothing. No score lies beyond its
// scale, so no interval does.
func Scores(key, label string, sides []evidence.NestedSide, pairs [][2]int) (Measure, error) {
	m, err := Lengths(key, label, sides, 0, pairs)
	m.Kind, m.Matters = Score, quantity.Ptr(1.0)
	for i := range m.Sides {
		if e := &m.Sides[i]; e.CI != nil {
			e.CI = &quantity.Interval{max(0, e.CI[0]), min(highestScore, e.CI[1])}
		} else if e.Value == nil {
			e.Note = "Not rated."
		}
	}
	for i := range m.Pairs {
		if m.Pairs[i].Reason == notRead {
			m.Pairs[i].Reason = "A side was not rated."
		}
	}
	return m, err
}

// Levels are what specimens bore, in a unit of its own, over prints, specimens and readings.
func Levels(key, label, unit string, sides []evidence.NestedSide, pairs [][2]int) (Measure, error) {
	m, err := Lengths(key, label, sides, 0, pairs)
	m.Kind, m.Unit = Level, unit
	for i := range m.Sides {
		if m.Sides[i].Value == nil {
			m.Sides[i].Note = "Not tested."
		}
	}
	for i := range m.Pairs {
		if m.Pairs[i].Reason == notRead {
			m.Pairs[i].Reason = "A side has no figure here."
		}
	}
	return m, err
}

// BelowGauge says of pairs whose difference is shown, and yet smaller than what two single
// readings of the instrument may differ by, that it shows in means alone. It belongs after
// Adjust, which settles what is shown.
func BelowGauge(measures []Measure) {
	for _, m := range measures {
		for i := range m.Pairs {
			p := &m.Pairs[i]
			if m.SmallestMM > 0 && p.Verdict != evidence.NotShown && p.Difference != nil && math.Abs(*p.Difference) < m.SmallestMM {
				p.Reason = strings.TrimSpace(p.Reason + fmt.Sprintf(" Single readings may differ by %s by themselves: it shows only in the mean of many.", say.Figure(1000*m.SmallestMM)+" µm"))
			}
		}
	}
}

// highestScore is the last step of a scale.
const highestScore = 4

// notRead is said of a pair of which a side has no reading.
const notRead = "A side was not read."

// Times are the times of finished prints of one kind of plate, in seconds.
func Times(key, label string, sides [][]float64, pairs [][2]int) (Measure, error) {
	m := Measure{Key: key, Label: label, Kind: Time, Pairs: []Pair{}}
	for _, times := range sides {
		if len(times) == 0 {
			m.Sides = append(m.Sides, Estimate{Note: "No such plate finished with a time."})
			continue
		}
		mean, ci := setup.MeanTime(times)
		m.Sides = append(m.Sides, Estimate{Value: &mean, CI: ci, Prints: int64(len(times))})
	}
	for _, at := range pairs {
		a, b := sides[at[0]], sides[at[1]]
		pair := Pair{A: at[0], B: at[1], Verdict: evidence.NotShown, Reason: "A side has no such plate with a time."}
		if len(a) > 0 && len(b) > 0 {
			r := setup.RatioOfTimes(a, b)
			pair = Pair{A: at[0], B: at[1], Difference: &r.Ratio, CI: r.CI, P: r.P, Verdict: evidence.NotShown}
			if r.P == nil {
				pair.Reason = "A side has one time."
			}
		}
		m.Pairs = append(m.Pairs, pair)
	}
	return m, nil
}

// FewestPrints is how many prints a side can show anything at all in a table of m p values,
// by the least p that a permutation of so many prints gives, times m (Holm).
func FewestPrints(m int) int64 {
	n := 2
	for evidence.LeastP(n, n)*float64(m) >= evidence.Significance {
		n++
	}
	return int64(n)
}

// ReadIn is the unit in which people say a measure, and how much of it in the measure's own terms is one: a share in per
// cent, a time in minutes, money in a currency.
func (m Measure) ReadIn(currency string) (unit string, per float64) {
	switch m.Kind {
	case Share:
		return "%", 0.01
	case Length:
		return "mm", 1
	case Time:
		return "min", 60
	case Money:
		return currency, 1
	case Score:
		return "of 0 to 4", 1
	}
	return m.Unit, 1
}
