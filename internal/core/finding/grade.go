// Package finding grades what a review found: how strong a sentence its evidence carries, in which words it may be
// said, and within which bounds it holds.
package finding

import (
	"ojime/internal/core/audit"
	"ojime/internal/core/evidence"
	"ojime/internal/core/quantity"
	"ojime/internal/say"
)

// Grades, the strongest first: the strongest word that the evidence carries.
const (
	Showed     = "showed"
	Suggests   = "suggests"
	Looked     = "looked"
	CannotTell = "cannot_tell"
	NotTested  = "not_tested"
)

// Grades are all of them, the strongest first.
var Grades = []string{Showed, Suggests, Looked, CannotTell, NotTested}

// How something was found out.
const (
	Measured = "measured" // by an instrument, a clock or a scale
	Counted  = "counted"  // present or not, whole or not
	Judged   = "judged"   // by an eye that knew which was which
	Blind    = "blind"    // by judges who did not know
	Computed = "computed" // from other figures, without a test of its own
	Said     = "said"     // in the reviewer's own words alone
)

// Evidence is what a finding rests on. Known says that every side has a figure; Prints are those of the side that
// has fewer (judges of a blind panel); Verdict and CanShow are those of evidence/prints and its kin, after
// adjustment. Deciding says that the measure was declared to decide before anything was printed, Among over how many p
// it was adjusted. Audit is the grade of audit/compare, empty where nothing was audited. Apart says, of what has no
// test, that the intervals of the sides lie apart. OpenedEarly and Knew are of panels: opened before all had voted, and
// that half of the judges or more believed to know which was which.
type Evidence struct {
	How         string
	Known       bool
	Prints      int64
	Verdict     string
	CanShow     bool
	Deciding    bool
	Among       int
	Audit       string
	Reference   bool
	Apart       bool
	OpenedEarly bool
	Knew        bool
}

// Graded is a grade, and why it is no better.
type Graded struct {
	Grade   string   `json:"grade" enum:"showed,suggests,looked,cannot_tell,not_tested"`
	Because []string `json:"because"`
}

// fewestPrints of a side below which a difference may be the luck of a print.
const fewestPrints = 3

// caps are the rules: where one holds, the grade is no better than it says. They are a practitioner's, and each says
// itself to the reader.
var caps = []struct {
	grade string
	where func(Evidence) bool
	why   func(Evidence) string
}{
	{NotTested, func(e Evidence) bool { return e.How != Said && !e.Known }, always("a side has no figure")},
	{CannotTell, func(e Evidence) bool { return e.tested() && !e.CanShow && e.Verdict == evidence.NotShown }, func(e Evidence) string {
		return "so few " + e.unit() + "s could not have shown a difference, whatever came out"
	}},
	{CannotTell, func(e Evidence) bool { return e.tested() && e.CanShow && e.Verdict == evidence.NotShown }, always("a difference is not shown")},
	{CannotTell, func(e Evidence) bool { return e.How == Computed && !e.Apart }, always("the intervals of the sides overlap or are not known, and there is no test")},
	{CannotTell, func(e Evidence) bool { return e.Audit == audit.NotComparable }, always("what differs beside may be all of it")},
	{CannotTell, func(e Evidence) bool { return e.ofPrints() && e.Prints < fewestPrints }, func(e Evidence) string {
		return "a side has " + say.Counted(e.Prints, "print") + ": that may be its luck"
	}},
	{Looked, func(e Evidence) bool { return e.How == Said }, always("it is the reviewer's word, and rests on no figure")},
	{Looked, func(e Evidence) bool { return e.How == Judged }, always("it was judged by an eye that knew which was which")},
	{Looked, func(e Evidence) bool { return e.Reference }, always("a reference is one thing, of one making")},
	{Looked, func(e Evidence) bool { return e.OpenedEarly }, always("the panel was opened before all had voted")},
	{Suggests, func(e Evidence) bool { return e.Knew }, always("half of the judges or more believed to know which was which")},
	{Suggests, func(e Evidence) bool { return e.How == Computed }, always("it is worked out from other figures and has no test of its own")},
	{Suggests, func(e Evidence) bool { return e.Audit == audit.WithCaveats }, always("something beside what is under test differs, too")},
	{Suggests, func(e Evidence) bool { return e.Audit == audit.NotFullyKnown }, always("not everything that may differ is known")},
	{Suggests, func(e Evidence) bool { return e.Verdict == evidence.Likely && !e.Deciding }, func(e Evidence) string {
		if e.Among > 1 {
			return "it is likely, not clear, and one of " + say.Whole(float64(e.Among)) + " in its table; it was not declared to decide before anything was printed"
		}
		return "it is likely, not clear, and was not declared to decide before anything was printed"
	}},
}

func always(text string) func(Evidence) string { return func(Evidence) string { return text } }

// tested reports evidence with a p of its own.
func (e Evidence) tested() bool { return e.Known && e.How != Computed && e.How != Said }

func (e Evidence) ofPrints() bool { return e.Known && e.How != Blind && e.How != Said && !e.Reference }

func (e Evidence) unit() string {
	if e.How == Blind {
		return "judge"
	}
	return "print"
}

// Grade is the strongest word that evidence carries: showed needs a clear difference (or a likely one in what was declared to
// decide before anything was printed) between three prints a side or more, measured, counted or judged blind, in a
// comparison that is fair. Because holds every reason at that grade.
func Grade(e Evidence) Graded {
	out := Graded{Grade: Showed, Because: []string{}}
	for _, c := range caps {
		if !c.where(e) {
			continue
		}
		if at, have := Rank(c.grade), Rank(out.Grade); at > have {
			out.Grade, out.Because = c.grade, []string{c.why(e)}
		} else if at == have {
			out.Because = append(out.Because, c.why(e))
		}
	}
	return out
}

// Rank is the place of a grade, 0 for the strongest.
func Rank(grade string) int {
	for i, g := range Grades {
		if g == grade {
			return i
		}
	}
	return len(Grades)
}

// LieApart reports two intervals that share no value.
func LieApart(a, b *quantity.Interval) bool {
	return a != nil && b != nil && (a[1] < b[0] || b[1] < a[0])
}
