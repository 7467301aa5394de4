package experiment

import (
	"fmt"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/audit"
	"ojime/internal/core/claims"
	"ojime/internal/core/contest"
	"ojime/internal/core/evidence"
	"ojime/internal/core/machine"
	"ojime/internal/say"
	"ojime/internal/store"
	"ojime/internal/work/compare"
	"ojime/internal/work/printing"
	"ojime/internal/work/side"
)

// Effect is what a knot did, as far as prints of the same pieces in the same resin before
// and after it show: A is before, B after. UnderTest is what came with the knot; Audits say
// question by question what else differs. Claim holds what was claimed against it.
type Effect struct {
	Sides     []side.Side       `json:"sides"`
	UnderTest []string          `json:"under_test"`
	Audits    []EffectAudit     `json:"audits"`
	Measures  []contest.Measure `json:"measures"`
	Counted   contest.Counted   `json:"counted"`
	Sentences []string          `json:"sentences"`
	Claim     string            `json:"claim"`
	Measured  string            `json:"measured"`
	Verdict   string            `json:"claim_verdict" enum:",met,not_met,cannot_tell"`
}

// EffectAudit is how fair a question is answered, with what stands in the way.
type EffectAudit struct {
	Question string   `json:"question"`
	Grade    string   `json:"grade"`
	Why      []string `json:"why"`
}

// mostAround is how many prints on either side of a knot are taken: the nearest ones.
const mostAround = 40

// cameWith are the factors that a kind of knot, or a change by its name, puts under test.
var cameWith = map[string][]string{
	"film": {"film_type"}, machine.Panel: {"panel"}, "firmware": {"firmware"}, "plate_surface": {"plate_surface"}, machine.AccessoryOn: {"accessories"}, machine.AccessoryOff: {"accessories"},
	"upgrade": {"firmware", "panel", "motion", "accessories"}, "light_calibration": {"panel"},
	"lift": {"motion"}, "retract": {"motion"}, "rest": {"motion"}, "release": {"motion"}, "motion": {"motion"}, machine.FilmType: {"film_type"}, "plate surface": {"plate_surface"}, machine.Accessory: {"accessories"},
}

// underTestOf are the factors that a knot puts under test, in the order of the audit: what
// its kinds and its changes name. An upgrade that names no change may be any of them.
func underTestOf(e bench.MachineEvent) []string {
	found := map[string]bool{}
	for _, kind := range e.Kinds {
		if kind == "upgrade" && len(e.Changes) > 0 {
			continue
		}
		for _, f := range cameWith[kind] {
			found[f] = true
		}
	}
	for _, c := range e.Changes {
		for _, f := range cameWith[strings.ToLower(c.What)] {
			found[f] = true
		}
	}
	out := []string{}
	for _, f := range audit.Factors() {
		if found[f] {
			out = append(out, f)
		}
	}
	return out
}

// effectOf compares the prints before and after a knot; nil, with the reason, where no
// piece was printed in one resin on both sides.
func effectOf(t *store.Tx, e bench.MachineEvent, pairs []BeforeAfter) (*Effect, string, error) {
	var before, after []string
	add := func(list *[]string, ids []string) {
		for _, id := range ids {
			if !slices.Contains(*list, id) {
				*list = append(*list, id)
			}
		}
	}
	for _, p := range pairs {
		if len(p.BeforeRunIDs) > 0 && len(p.AfterRunIDs) > 0 {
			add(&before, p.BeforeRunIDs[max(0, len(p.BeforeRunIDs)-mostAround):])
			add(&after, p.AfterRunIDs[:min(len(p.AfterRunIDs), mostAround)])
		}
	}
	if len(before) == 0 {
		return nil, "No piece was printed in one resin both before and after it: print one again that was printed before.", nil
	}
	out := Effect{UnderTest: underTestOf(e), Audits: []EffectAudit{}, Sentences: []string{}}
	m, err := compare.Match(t, printing.NewReader(t), compare.ComparisonRequest{Sides: [][]string{before, after}, UnderTest: out.UnderTest, Names: []string{"Before", "After"}})
	if err != nil {
		return nil, "", err
	}
	for _, q := range m.Questions() {
		c, err := m.Ask(q)
		if err != nil {
			return nil, "", err
		}
		out.Sides, out.Measures, out.Counted = c.Sides, c.Measures, c.Counted
		a := EffectAudit{Question: q, Grade: c.Audits[0].Result.Grade, Why: []string{}}
		for _, row := range c.Audits[0].Result.Rows {
			if row.Weight != audit.None && row.State != audit.Unknown {
				a.Why = append(a.Why, row.Sentence)
			}
		}
		out.Audits = append(out.Audits, a)
	}
	for _, measure := range out.Measures {
		out.Sentences = append(out.Sentences, contest.Sentences(measure, []string{"before", "after"}, out.Counted)...)
	}
	out.hold(e)
	return &out, "", nil
}

// hold holds the time that was claimed against the times of the same plates.
func (f *Effect) hold(e bench.MachineEvent) {
	if e.ClaimedTimePct == nil {
		return
	}
	claimed := "Claimed: a print takes " + say.Figure(*e.ClaimedTimePct) + " % of the time before. "
	var of *contest.Measure
	for i, m := range f.Measures {
		if strings.HasPrefix(m.Key, compare.DecidingTime+" ") && len(m.Pairs) > 0 && m.Pairs[0].Difference != nil { // of printing, not of what comes after it
			of = &f.Measures[i] // the last is over all kinds of plates, where there are several
		}
	}
	if of == nil {
		f.Measured, f.Verdict = "no plate that holds the same has a time on both sides, so that cannot be told", claims.CannotTell
		f.Claim = claimed + "Measured: " + f.Measured + "."
		return
	}
	pair := of.Pairs[0]
	if f.Verdict = claims.AtMost(*e.ClaimedTimePct/100, pair.CI); pair.Verdict == evidence.NotShown {
		f.Verdict = claims.CannotTell // a difference that is not shown decides nothing
	}
	measured := fmt.Sprintf("%s %%", say.Figure(100**pair.Difference))
	if pair.CI != nil {
		measured += fmt.Sprintf(" (%s to %s %%)", say.Figure(100*pair.CI[0]), say.Figure(100*pair.CI[1]))
	} else {
		measured += ", without an interval"
	}
	if pair.Kinds > 0 {
		measured += ", over " + say.Counted(pair.Kinds, "kind") + " of plates"
	}
	f.Measured = measured + ": " + claims.Words[f.Verdict]
	f.Claim = claimed + "Measured: " + f.Measured + "."
}
