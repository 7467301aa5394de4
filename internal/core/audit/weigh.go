package audit

import (
	"fmt"
	"math"
	"slices"

	"ojime/internal/core/quantity"
)

// facts are what is known of a factor, and what follows from that for a question.
type facts struct {
	rule           *rule
	a, b           Values
	both           Values // the known values of both sides
	shownA, shownB string // a side's values in words
	pair           string // both, with the names of the sides
	told           bool   // known of any print
	complete       bool   // known of every print of both sides
	alike          bool   // all known values are one
	varies         bool   // a side differs within itself
	apart          bool   // the sides are over the minor limit
	flagged        bool   // the flag is set on one side only
	flaggedA       bool   // it is set on the first
	neither        bool   // the flag is set on both: neither side is in order
	underTest      bool
	exempt         bool // its basis speaks for it
	state          string
	weight         string
}

// known is what is the same for every question.
func (r *rule) known(in CompareInput) facts {
	f := facts{rule: r, a: r.values(in.A), b: r.values(in.B), weight: None}
	f.both = slices.Concat(f.a.known(), f.b.known())
	f.told, f.complete, f.alike = len(f.both) > 0, f.a.complete() && f.b.complete(), f.both.alike()
	f.shownA, f.shownB = r.shown(f.a), r.shown(f.b)
	f.varies, f.apart = r.varies(f.a) || r.varies(f.b), r.apart(f.a, f.b, f.both)
	if r.flag != nil {
		a, b := r.flag(in.A).set(), r.flag(in.B).set()
		f.flagged, f.flaggedA, f.neither = a != b, a, a && b
	}
	f.underTest = slices.Contains(in.UnderTest, r.factor)
	return f
}

// named puts the values of both sides in words.
func (f facts) named(nameA, nameB string) facts {
	f.pair = fmt.Sprintf("%s in %s, %s in %s", f.shownA, nameA, f.shownB, nameB)
	if f.complete && f.alike {
		f.pair = f.shownA + " on both sides"
	}
	return f
}

// weigh says what follows for the question that is asked.
func (f *facts) weigh(in CompareInput) {
	r := f.rule
	switch {
	case r.factor == prints:
		f.state, f.weight = weighPrints(in.A.Prints, in.B.Prints)
	case f.underTest && f.varies:
		f.state, f.weight = Varies, Major
	case f.underTest:
		f.state = UnderTest
	case r.comesWith(in.UnderTest) && !f.varies:
		f.underTest, f.state = true, UnderTest
	case r.promised(in, *f, &f.state):
		f.weight = Major
	default:
		r.ordinary(in, f)
	}
}

// comesWith reports a factor that a factor under test brings along.
func (r rule) comesWith(underTest []string) bool {
	return slices.ContainsFunc(underTest, func(f string) bool { return slices.Contains(companions[f], r.factor) })
}

// promised holds a factor against the policy. What breaks it, or hides whether it does,
// is major for every question.
func (r rule) promised(in CompareInput, f facts, state *string) bool {
	wanted := map[string]string{MakerDefault: "default", EachCalibrated: "calibrated"}
	policy := quantity.Or(in.Policy, "")
	if basis, asks := wanted[policy]; asks && r.factor == exposureBasis {
		*state = Differs
		return slices.ContainsFunc(f.both, func(v any) bool { return v != any(basis) })
	}
	if policy != SameSettings || !slices.Contains([]string{exposureS, bottomDoseS, motion, layerUM}, r.factor) {
		return false
	}
	switch {
	case f.apart:
		*state = Differs
		return true
	case !f.complete:
		*state = Unknown
		return true
	}
	return false
}

// ordinary weighs a factor by the table.
func (r rule) ordinary(in CompareInput, f *facts) {
	switch {
	case f.flagged:
		f.state, f.weight = Differs, Major
	case f.neither:
		f.state, f.weight = Same, Minor
	case r.twoLights(in):
		f.state, f.weight = Unknown, Minor
		if in.A.DoseMJCM2.complete() && in.B.DoseMJCM2.complete() {
			f.weight = None
		}
	default:
		f.state, f.weight = r.byValues(in, *f)
	}
	if !r.matters(in.Question) {
		f.weight = None
	}
	if slices.Contains([]string{exposureS, bottomDoseS}, r.factor) && in.basisSpeaks() || r.factor == dose && (in.oneLight() || in.basisSpeaks()) {
		f.exempt, f.weight = true, None
	}
}

// byValues is the state and weight of what is known, or of what is not.
func (r rule) byValues(in CompareInput, f facts) (state, weight string) {
	weight = r.weighs(f, in)
	if !f.complete && weight != Major {
		return Unknown, r.hidden(in)
	}
	switch {
	case f.alike:
		return Same, weight
	case f.varies:
		return Varies, weight
	}
	return Differs, weight
}

// matters reports that a factor matters to a question. What specimens bear hangs on what
// their sizes, failures and surface hang on, and not on how they were looked at or measured,
// nor on how supports came off.
func (r rule) matters(question string) bool {
	if question == Strength {
		return !slices.Contains(ofTheLook, r.factor) && (r.matters(Dimension) || r.matters(Failure) || r.matters(Finish))
	}
	return r.questions == nil || slices.Contains(r.questions, question)
}

// ofTheLook are factors of how a specimen is looked at or measured, which it bears no less
// for.
var ofTheLook = []string{"antialiasing", "software", "surface_light", "station", "instrument"}

// laserTime reports the one factor whose weight hangs on the question: a laser's time
// grows with every copy.
func (r rule) laserTime(in CompareInput) bool {
	return r.factor == copies && in.Question == Time && in.laser()
}

// hidden is the worst that a factor which is not known could weigh.
func (r rule) hidden(in CompareInput) string {
	if r.anyMajor || r.majorOver > 0 || r.flag != nil || r.laserTime(in) {
		return Major
	}
	return Minor
}

// weighs is what the spread over all known values weighs.
func (r rule) weighs(f facts, in CompareInput) string {
	if f.alike {
		return None
	}
	switch {
	case r.anyMajor, r.laserTime(in):
		return Major
	case r.anyMinor:
		return Minor
	case r.majorOver > 0 && quantity.Less(r.majorOver, f.both.spread()):
		return Major
	case f.apart:
		return Minor
	}
	return None
}

// spread is the greatest known number less the least.
func (v Values) spread() float64 {
	n := v.Numbers()
	if len(n) == 0 {
		return 0
	}
	return slices.Max(n) - slices.Min(n)
}

// over reports known values that are apart by more than the minor limit, or at all where
// there is none.
func (r rule) over(v Values) bool {
	n := v.Numbers()
	switch {
	case len(n) < len(v.known()) || r.minorOver == 0 && r.ratioOver == 0:
		return !v.alike()
	case len(n) == 0:
		return false
	case r.ratioOver > 0:
		return quantity.Less(r.ratioOver*slices.Min(n), slices.Max(n))
	}
	return quantity.Less(r.minorOver, v.spread())
}

// apart holds two sides against the minor limit.
func (r rule) apart(a, b, both Values) bool {
	if r.factor == printedMS {
		return quantity.Less(r.minorOver, medianApart(a.Numbers(), b.Numbers()))
	}
	return r.over(both)
}

// varies reports a side that differs within itself. When it was printed always does.
func (r rule) varies(v Values) bool { return r.factor != printedMS && r.over(v) }

// weighPrints weighs each side by itself: 1 print on a side is major, fewer than 3 minor,
// and an unknown side weighs as the worst.
func weighPrints(a, b *int64) (state, weight string) {
	state = Unknown
	if a != nil && b != nil {
		if state = Differs; *a == *b {
			state = Same
		}
	}
	fewest := int64(math.MaxInt64)
	for _, n := range []*int64{a, b} {
		if n != nil {
			fewest = min(fewest, *n)
		}
	}
	switch {
	case fewest == 1 && state == Unknown:
		return Differs, Major
	case fewest == 1, state == Unknown:
		return state, Major
	case fewest < 3:
		return state, Minor
	}
	return state, None
}

// oneLight reports that machine and panel are one known value over both sides: only then
// are seconds a dose.
func (in CompareInput) oneLight() bool {
	for _, of := range []func(Conditions) Values{func(c Conditions) Values { return c.Machine }, func(c Conditions) Values { return c.Panel }} {
		a, b := of(in.A), of(in.B)
		if !a.complete() || !b.complete() || !append(slices.Clone(a), b...).alike() {
			return false
		}
	}
	return true
}

// basisSpeaks reports that every print was made at its calibrated exposure, or, where that
// is the policy, at its maker's.
func (in CompareInput) basisSpeaks() bool {
	policy := quantity.Or(in.Policy, "")
	all := append(slices.Clone(in.A.ExposureBasis), in.B.ExposureBasis...)
	if policy == SameSettings || !in.A.ExposureBasis.complete() || !in.B.ExposureBasis.complete() || !all.alike() {
		return false
	}
	return all[0] == any("calibrated") || policy == MakerDefault && all[0] == any("default")
}

// twoLights reports seconds that are not one dose.
func (r rule) twoLights(in CompareInput) bool {
	return (r.factor == exposureS || r.factor == bottomDoseS) && !in.oneLight() && !in.basisSpeaks() && quantity.Or(in.Policy, "") != SameSettings
}
