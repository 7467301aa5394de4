package audit

import (
	"fmt"
	"math"
	"slices"

	"ojime/internal/core/quantity"
	"ojime/internal/core/stats"
)

// States of a factor, weights and grades.
const (
	Same      = "same"
	UnderTest = "under_test"
	Varies    = "varies"
	Differs   = "differs"
	Unknown   = "unknown"

	None  = "none"
	Minor = "minor"
	Major = "major"

	Fair          = "fair"
	NotFullyKnown = "not_fully_known"
	WithCaveats   = "with_caveats"
	NotComparable = "not_comparable"
)

// CompareInput sets the conditions of two sides' prints against each other. UnderTest
// names factors that vary on purpose (any but prints); Policy is what was promised of the
// settings, where anything was.
type CompareInput struct {
	A         Conditions `json:"a"`
	B         Conditions `json:"b"`
	UnderTest []string   `json:"under_test,omitempty"`
	Question  string     `json:"question"`
	Policy    *string    `json:"policy,omitempty"`
}

// Row is one factor: same, under_test, varies (within a side), differs or unknown; none,
// minor or major; and what it means in a sentence.
type Row struct {
	Factor   string `json:"factor"`
	State    string `json:"state"`
	Weight   string `json:"weight"`
	Sentence string `json:"sentence"`
}

// CompareResult grades a comparison fair, not_fully_known, with_caveats or
// not_comparable, with one row for every factor in the order of the table.
type CompareResult struct {
	Grade string `json:"grade"`
	Rows  []Row  `json:"rows"`
	quantity.Warnings
}

// Compare weighs every factor for a question, over prints and not their means. It warns
// not_varied when a factor under test is equal on both sides or not known of a print, and
// not_held when it varies within a side.
func Compare(in CompareInput) (CompareResult, error) {
	c := in.check()
	c.OneOf("question", in.Question, Questions...)
	if err := c.Err(); err != nil {
		return CompareResult{}, err
	}
	return match(in, "A", "B").weigh(in.Question), nil
}

// Pair is two sides with all that is the same for every question.
type Pair struct {
	in           CompareInput
	nameA, nameB string
	known        []facts
}

// Match sets two sides, which are called by their names, against each other, so that they can be weighed for several questions.
// Its errors name the condition, factor or policy that is not one.
func Match(in CompareInput, nameA, nameB string) (Pair, error) {
	c := in.check()
	return match(in, nameA, nameB), c.Err()
}

func match(in CompareInput, nameA, nameB string) Pair {
	p := Pair{in: in, nameA: nameA, nameB: nameB}
	for i := range rules {
		r := &rules[i]
		if f := r.known(in); !r.whereTold || f.told {
			p.known = append(p.known, f.named(nameA, nameB))
		}
	}
	return p
}

// For is Compare of the two sides for one of Questions.
func (p Pair) For(question string) (CompareResult, error) {
	var c quantity.Checks
	c.OneOf("question", question, Questions...)
	return p.weigh(question), c.Err()
}

func (p Pair) weigh(question string) CompareResult {
	out := CompareResult{Grade: Fair, Rows: make([]Row, 0, len(p.known)), Warnings: quantity.None()}
	in, unknown := p.in, false
	in.Question = question
	for _, f := range p.known {
		r := f.rule
		f.weigh(in)
		row := Row{Factor: r.factor, State: f.state, Weight: f.weight, Sentence: r.sentence(f, in, p.nameA, p.nameB)}
		if f.underTest && f.state == Varies {
			out.Warn("not_held", "%s is under test, but varies within a side; each side has to hold it.", r.label)
		}
		if f.underTest && slices.Contains(in.UnderTest, r.factor) && (!f.complete || f.alike) {
			out.Warn("not_varied", "%s is under test but does not vary as far as is known: %s against %s.", r.label, f.shownA, f.shownB)
		}
		switch {
		case row.Weight == None:
		case row.State == Unknown:
			unknown = true
		case row.Weight == Major:
			out.Grade = NotComparable
		case out.Grade == Fair:
			out.Grade = WithCaveats
		}
		out.Rows = append(out.Rows, row)
	}
	if out.Grade == Fair && unknown {
		out.Grade = NotFullyKnown
	}
	return out
}

// check checks all but the question.
func (in CompareInput) check() *quantity.Checks {
	c := &quantity.Checks{}
	allowed := slices.DeleteFunc(Factors(), func(f string) bool { return f == prints })
	for i, f := range in.UnderTest {
		c.OneOf(fmt.Sprintf("under_test[%d]", i), f, allowed...)
	}
	if in.Policy != nil {
		c.OneOf("policy", *in.Policy, SameSettings, MakerDefault, EachCalibrated)
	}
	checkConditions(c, "a.", in.A)
	checkConditions(c, "b.", in.B)
	return c
}

func checkConditions(c *quantity.Checks, side string, k Conditions) {
	each(c, side+"process", k.Process, func(c *quantity.Checks, at string, v any) { checkWord(c, at, v, []string{"masked", "laser"}) })
	for _, r := range rules {
		if r.flag != nil {
			each(c, side+flagName[r.factor], r.flag(k), func(c *quantity.Checks, at string, v any) { checkKind(c, at, v, truth) })
		}
		if r.factor == prints {
			if k.Prints != nil {
				c.CountAbove(side+prints, *k.Prints)
			}
			continue
		}
		each(c, side+r.factor, r.values(k), func(c *quantity.Checks, at string, v any) {
			if r.oneOf != nil {
				checkWord(c, at, v, r.oneOf)
			} else {
				checkKind(c, at, v, r.kind)
			}
		})
	}
}

// flagName is what the flag of a factor is called.
var flagName = map[string]string{"bottle_age_days": "bottle_expired", "film_layers": "film_clouded", "days_since_level": "moved_since_level"}

// each checks what is known of a condition, by its path, which is written where something is wrong.
func each(c *quantity.Checks, at string, values Values, check func(c *quantity.Checks, at string, v any)) {
	for i, v := range values {
		if v == nil {
			continue
		}
		var first quantity.Checks
		if check(&first, at, v); first.Err() == nil {
			continue
		}
		if len(values) > 1 {
			check(c, fmt.Sprintf("%s[%d]", at, i), v)
		} else {
			check(c, at, v)
		}
	}
}

func checkWord(c *quantity.Checks, at string, v any, allowed []string) {
	word, _ := v.(string)
	c.OneOf(at, word, allowed...)
}

func checkKind(c *quantity.Checks, at string, v any, kind int) {
	n, isNumber := v.(float64)
	switch kind {
	case words:
		if isNumber {
			c.Number(at, n)
		}
		return
	case truth:
		if _, ok := v.(bool); !ok {
			c.Fail(at, "is neither true nor false")
		}
		return
	}
	if !isNumber {
		c.Fail(at, "is no number")
		return
	}
	switch kind {
	case above:
		c.Above(at, n)
	case notBelow:
		c.NotBelow(at, n)
	case number:
		c.Number(at, n)
	case wholeAbove:
		if n < 1 || n != math.Trunc(n) {
			c.Fail(at, "is %v; it must be a whole number of at least 1", n)
		}
	}
}

// medianApart is by how much the medians of two lists of numbers differ.
func medianApart(a, b []float64) float64 {
	if len(a) == 0 || len(b) == 0 {
		return 0
	}
	return math.Abs(stats.Median(a) - stats.Median(b))
}
