package work_test

import (
	"errors"
	"slices"
	"strings"
	"testing"
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/contest"
	"ojime/internal/core/evidence"
	"ojime/internal/core/quantity"
	"ojime/internal/work/compare"
	"ojime/internal/work/printing"
)

// seen records a print of wedges with settings, of which so many are lost, measures the
// length of the others, and reads pins and edge.
func (d *desk) seen(settings string, copies, lost int, lengthMM float64, smallestPin float64, took time.Duration) printing.RunSheet {
	d.t.Helper()
	run := d.runOf(int64(copies), func(r *bench.Run) {
		r.ProfileID, r.ResinUsedG = settings, quantity.Ptr(5.0*float64(copies))
		r.EndedMS = quantity.Ptr(r.StartedMS + took.Milliseconds())
	})
	var readings []bench.Reading
	for i := range run.Specimens {
		s := &run.Specimens[i]
		if s.Outcome = "whole"; i < lost {
			ruin(s, "lost", "void", "printed", "machine")
			continue
		}
		edge := "present"
		if smallestPin > 0.3 {
			edge = "missing"
		}
		readings = append(readings, bench.Reading{SpecimenID: s.ID, FeatureID: d.piece.Features[0].ID, InstrumentID: &d.tool.ID, ValueMM: quantity.Ptr(lengthMM + 0.01*float64(i%2))},
			bench.Reading{SpecimenID: s.ID, FeatureID: d.piece.Features[2].ID, State: &edge})
		for _, rung := range []float64{0.2, 0.3, 0.4} {
			readings = append(readings, bench.Reading{SpecimenID: s.ID, FeatureID: d.piece.Features[1].ID, RungMM: &rung, Intact: quantity.Ptr(rung >= smallestPin)})
		}
	}
	must(d.w.Inspect.JudgeSpecimens(d.t.Context(), run.Run.ID, run.Specimens))(d.t)
	must(d.w.Inspect.RecordReadings(d.t.Context(), run.Run.ID, readings, true))(d.t)
	d.clock = d.clock.Add(3 * time.Hour)
	return must(d.w.Printing.RunSheet(d.t.Context(), run.Run.ID))(d.t)
}

// three are three sides of four prints each: as it is, another size and longer, and fails.
func three(t *testing.T) (d *desk, sides [][]string) {
	t.Helper()
	d = newDesk(t)
	settings := []string{d.settings(func(*bench.Profile) {}).ID, d.settings(func(p *bench.Profile) { p.ExposureS = quantity.Ptr(2.6) }).ID, d.settings(func(p *bench.Profile) { p.ExposureS = quantity.Ptr(1.4) }).ID}
	sides = make([][]string, 3)
	for i := range 4 {
		noise := 0.002 * float64(i)
		for side, run := range []printing.RunSheet{
			d.seen(settings[0], 4, 0, 30.02+noise, 0.2, 30*time.Minute+time.Duration(i)*time.Second), d.seen(settings[1], 4, 0, 30.22+noise, 0.4, 45*time.Minute+time.Duration(i)*time.Second),
			d.seen(settings[2], 4, 3, 30.02+noise, 0.3, 30*time.Minute+time.Duration(i)*time.Second)} {
			sides[side] = append(sides[side], run.Run.ID)
		}
	}
	return d, sides
}

func measure(t *testing.T, c compare.Comparison, key string) contest.Measure {
	t.Helper()
	for _, m := range c.Measures {
		if strings.HasPrefix(m.Key, key) {
			return m
		}
	}
	t.Fatalf("there is no measure %s", key)
	return contest.Measure{}
}

func TestThreeSidesAreSetAgainstOne(t *testing.T) {
	d, sides := three(t)
	c := must(d.w.Reviews.Compare(t.Context(), compare.ComparisonRequest{Sides: sides, Question: "dimension", UnderTest: []string{"exposure_s"}}))(t)
	if len(c.Sides) != 3 || len(c.Audits) != 2 || c.Sides[2].Letter != "C" || len(c.Sides[1].Runs) != 4 {
		t.Fatalf("%d sides, %d audits", len(c.Sides), len(c.Audits))
	}
	size := measure(t, c, "size ")
	if !size.Signed || size.Kind != contest.Length || size.Sides[0].Prints != 4 || size.Sides[0].Specimens != 16 || size.Sides[2].Specimens != 4 {
		t.Errorf("size %+v", size)
	}
	// B is a fifth of a millimetre longer; C is not, and what was lost does not count.
	if b := size.Pairs[0]; b.A != 1 || b.B != 0 || *b.Difference < 0.19 || *b.Difference > 0.21 || b.Verdict != evidence.Clear || b.CI[0] <= 0 {
		t.Errorf("B against A: %+v", b)
	}
	if same := size.Pairs[1]; same.Verdict != evidence.NotShown || *same.PAdjusted < *same.P {
		t.Errorf("C against A: %+v", same)
	}
	failures := measure(t, c, "failures")
	if none := failures.Sides[0]; *none.Value != 0 || none.UpperIfNone == nil {
		t.Errorf("A never failed: %+v", none)
	}
	if lost := failures.Sides[2]; *lost.Value != 0.75 || *lost.Events != 12 || lost.Prints != 4 {
		t.Errorf("C: %+v", lost)
	}
	if p := failures.Pairs[1]; *p.P != 2.0/70 || p.Verdict == evidence.Clear || *p.PAdjusted <= *p.P {
		t.Errorf("among %d in the table: %+v", c.Counted.Table, p)
	}
	times := measure(t, c, "time ")
	if times.Label != "Time of a plate of 4 × Wedge" || *times.Pairs[0].Difference < 1.49 || *times.Pairs[0].Difference > 1.51 || times.Pairs[0].Verdict != evidence.Clear {
		t.Errorf("%s: %+v", times.Label, times.Pairs[0])
	}
	ladder := measure(t, c, "ladder ")
	if !quantity.Equal(*ladder.Sides[0].Value, 0.2) || !quantity.Equal(*ladder.Sides[1].Value, 0.4) || *ladder.Pairs[0].P > 0.05 || *ladder.Pairs[1].P < *ladder.Pairs[0].P {
		t.Errorf("ladder %+v", ladder)
	}
	if edge := measure(t, c, "checkpoint "); *edge.Sides[0].Value != 1 || *edge.Sides[1].Value != 0 || *edge.Pairs[0].Difference != -1 {
		t.Errorf("edge %+v", edge)
	}
	cost := measure(t, c, "cost")
	if len(cost.Pairs) != 0 || *cost.Sides[2].Value <= *cost.Sides[0].Value || cost.Sides[2].CI[1] <= *cost.Sides[2].Value {
		t.Errorf("cost %+v", cost.Sides)
	}
	if len(c.Answers) != 2 || !strings.Contains(c.Answers[0], "clearly different") || !strings.Contains(c.Answers[1], "is not shown") {
		t.Errorf("%q", c.Answers)
	}
}

func TestAnySideCanBeHeldAgainst(t *testing.T) {
	d, sides := three(t)
	ask := func(req compare.ComparisonRequest) compare.Comparison {
		t.Helper()
		req.Sides, req.Question = sides, "dimension"
		return must(d.w.Reviews.Compare(t.Context(), req))(t)
	}
	against := ask(compare.ComparisonRequest{Baseline: 1})
	if p := measure(t, against, "size ").Pairs; len(p) != 2 || p[0].A != 0 || p[0].B != 1 || *p[0].Difference > -0.19 {
		t.Errorf("against B: %+v", p)
	}
	if against.Audits[0].A != 0 || against.Audits[0].B != 1 {
		t.Errorf("audits %+v", against.Audits[0])
	}
	each := ask(compare.ComparisonRequest{Each: true})
	if p := measure(t, each, "size ").Pairs; len(p) != 3 || each.Counted.Table <= against.Counted.Table {
		t.Errorf("each with each: %d pairs, %d p; against one %d p", len(p), each.Counted.Table, against.Counted.Table)
	}
	for field, req := range map[string]compare.ComparisonRequest{
		"side": {Sides: sides[:1]}, "baseline": {Sides: sides, Baseline: 3}, "side[1]": {Sides: [][]string{sides[0], {}}}, "question": {Sides: sides, Question: "beauty"},
	} {
		if req.Question == "" {
			req.Question = "time"
		}
		_, err := d.w.Reviews.Compare(t.Context(), req)
		wantField(t, err, field)
	}
	if _, err := d.w.Reviews.Compare(t.Context(), compare.ComparisonRequest{Sides: [][]string{{"no-print"}, sides[0]}, Question: "time"}); !errors.Is(err, bench.ErrNotFound) {
		t.Errorf("a print that is not there: %v", err)
	}
}

// Plates of one and of four copies are not averaged.
func TestPlatesOfOtherFillAreRowsOfTheirOwn(t *testing.T) {
	d := newDesk(t)
	other := d.settings(func(p *bench.Profile) { p.ExposureS = quantity.Ptr(3.0) }).ID
	a := []string{d.seen(d.profile.ID, 4, 0, 30, 0.2, 40*time.Minute).Run.ID, d.seen(d.profile.ID, 1, 0, 30, 0.2, 30*time.Minute).Run.ID}
	b := []string{d.seen(other, 4, 0, 30, 0.2, 50*time.Minute).Run.ID}
	c := must(d.w.Reviews.Compare(t.Context(), compare.ComparisonRequest{Sides: [][]string{a, b}, Question: "time"}))(t)
	four, one := measure(t, c, "time 4 × Wedge"), measure(t, c, "time 1 × Wedge")
	if four.Sides[0].Prints != 1 || four.Sides[1].Prints != 1 || !quantity.Equal(*four.Pairs[0].Difference, 1.25) {
		t.Errorf("four copies: %+v", four)
	}
	if one.Sides[1].Value != nil || one.Pairs[0].Difference != nil || one.Pairs[0].Reason == "" {
		t.Errorf("one copy was printed on one side only: %+v", one)
	}
}

// The audit is over prints: a side of which one print was hot says so.
func TestTheAuditSeesEachPrint(t *testing.T) {
	d := newDesk(t)
	at := func(c float64) string {
		return d.run(func(r *bench.Run) { r.ResinTempC, r.StartedMS = &c, r.StartedMS+int64(1000*c) }).Run.ID
	}
	a, b := []string{at(18), at(30)}, []string{at(24), at(24)}
	c := must(d.w.Reviews.Compare(t.Context(), compare.ComparisonRequest{Sides: [][]string{a, b}, Question: "detail"}))(t)
	for _, r := range c.Audits[0].Result.Rows {
		if r.Factor == "resin_temp_c" && (r.State != "varies" || !strings.HasPrefix(r.Sentence, "Resin temperature: 18 to 30 °C in A, 24 °C in B")) {
			t.Errorf("%s %s: %s", r.State, r.Weight, r.Sentence)
		}
	}
}

func TestTheTimeOfSidesIsExplained(t *testing.T) {
	d := newDesk(t)
	slow := d.settings(func(p *bench.Profile) { p.Lift = bench.Moves{{MM: 6, MMMin: 30}}; p.ExposureS = quantity.Ptr(1.9) })
	fast := d.settings(func(p *bench.Profile) { p.Lift = bench.Moves{{MM: 6, MMMin: 180}}; p.ExposureS = quantity.Ptr(2.1) })
	var sides [][]string
	for i, s := range []bench.Profile{slow, fast} {
		one := d.seen(s.ID, 4, 0, 30, 0.2, time.Duration(3-2*i)*time.Hour)
		sides = append(sides, []string{one.Run.ID})
	}
	c := must(d.w.Reviews.Compare(t.Context(), compare.ComparisonRequest{Sides: sides, Baseline: 1, Question: "time", UnderTest: []string{"motion"}}))(t)
	if len(c.Whys) != 1 || c.Whys[0].A != 0 || c.Whys[0].B != 1 {
		t.Fatalf("%+v", c.Whys)
	}
	if p := c.TimeSplits[0]; !p.Known || p.Phases.LiftS <= c.TimeSplits[1].Phases.LiftS || p.Phases.ExposureS+p.Phases.LiftS+p.Phases.RetractS+p.Phases.WaitS+p.Phases.OverheadS-p.TotalS > 0.01 {
		t.Errorf("the time of A: %+v", p)
	}
	said := strings.Join(c.Whys[0].Sentences, " ")
	for _, words := range []string{"took 2 h 00 min longer on A than on B.", "The lift accounts for ", "The exposure accounts for ", "less: it cannot be the reason."} {
		if !strings.Contains(said, words) {
			t.Errorf("does not say %q: %s", words, said)
		}
	}
	// What varies within a side has no one time; what was measured stands all the same.
	mixed := must(d.w.Reviews.Compare(t.Context(), compare.ComparisonRequest{Sides: [][]string{{sides[0][0], sides[1][0]}, sides[1]}, Question: "time"}))(t)
	if mixed.TimeSplits[0].Known || mixed.TimeSplits[0].Reason != "its prints differ in settings or height" || len(mixed.Whys) != 0 {
		t.Errorf("%+v, %+v", mixed.TimeSplits[0], mixed.Whys)
	}
}

// With two factors under test the comparison says which pair tells of which.
func TestAComparisonSaysWhichPairAnswersWhat(t *testing.T) {
	d := newDesk(t)
	settings := []string{
		d.settings(func(p *bench.Profile) { p.WaitLiftS = quantity.Ptr(1.0) }).ID,
		d.settings(func(p *bench.Profile) { p.WaitLiftS, p.ExposureS = quantity.Ptr(1.0), quantity.Ptr(2.6) }).ID,
		d.settings(func(p *bench.Profile) { p.WaitLiftS, p.ExposureS = quantity.Ptr(5.0), quantity.Ptr(2.6) }).ID,
	}
	var sides [][]string
	for _, id := range settings {
		sides = append(sides, []string{d.seen(id, 2, 0, 30, 0.2, 30*time.Minute).Run.ID, d.seen(id, 2, 0, 30, 0.2, 30*time.Minute).Run.ID})
	}
	c := must(d.w.Reviews.Compare(t.Context(), compare.ComparisonRequest{Sides: sides, Question: "time", UnderTest: []string{"exposure_s", "motion"}}))(t)
	if !slices.Equal(c.Pairs, []string{"Exposure alone differs in B against A.", "Motion alone differs in C against B."}) {
		t.Errorf("says %q", c.Pairs)
	}
	if c.Audits[1].Tells != "C against A: exposure and motion differ at once, so a difference may be any of theirs." {
		t.Errorf("C against A: %q", c.Audits[1].Tells)
	}
}

// What it takes to get supports off is a time like any other, by what lay on the plate;
// prints of which nobody timed it say nothing.
func TestTakingSupportsOffIsCompared(t *testing.T) {
	d := newDesk(t)
	other := d.settings(func(p *bench.Profile) { p.ExposureS = quantity.Ptr(2.6) }).ID
	var sides [][]string
	for side, settings := range []string{d.profile.ID, other} {
		var ids []string
		for i := range 3 {
			run := d.seen(settings, 2, 0, 30, 0.2, 30*time.Minute)
			ids = append(ids, run.Run.ID)
			if side == 1 && i == 2 {
				continue
			}
			ended := d.clock.UnixMilli()
			d.step(run, bench.ProcessStep{Kind: "supports", StartedMS: ended - int64(60_000*(5+5*side)+1000*i), EndedMS: &ended, Effort: quantity.Ptr[int64](2), Scars: "light"})
		}
		sides = append(sides, ids)
	}
	c := must(d.w.Reviews.Compare(t.Context(), compare.ComparisonRequest{Sides: sides, Question: "finish"}))(t)
	m := measure(t, c, "removal 2 × Wedge")
	if m.Sides[0].Prints != 3 || m.Sides[1].Prints != 2 || m.Label != "Taking supports off a plate of 2 × Wedge" {
		t.Fatalf("%+v", m)
	}
	if p := m.Pairs[0]; *p.Difference < 1.98 || *p.Difference > 2.01 || p.Verdict == "not_shown" {
		t.Errorf("%+v", p)
	}
	if !slices.ContainsFunc(c.Answers, func(a string) bool {
		return strings.HasPrefix(a, "Taking supports off a plate of 2 × Wedge: B 10 min")
	}) {
		t.Errorf("says %q", c.Answers)
	}
}

// A fault counts by the prints on which it was seen; an accident is none.
func TestFaultsAreSetSideBySide(t *testing.T) {
	d := newDesk(t)
	other := d.settings(func(p *bench.Profile) { p.ExposureS = quantity.Ptr(1.4) }).ID
	var sides [][]string
	for side, settings := range []string{d.profile.ID, other} {
		var ids []string
		for range 3 {
			ids = append(ids, d.seen(settings, 3, side, 30, 0.2, 30*time.Minute).Run.ID)
		}
		sides = append(sides, ids)
	}
	dropped := must(d.w.Printing.RunSheet(t.Context(), sides[0][0]))(t).Specimens[2]
	ruin(&dropped, "lost", "broken in handling", "wash", "operator")
	must(d.w.Inspect.JudgeSpecimens(t.Context(), sides[0][0], []bench.Specimen{dropped}))(t)
	c := must(d.w.Reviews.Compare(t.Context(), compare.ComparisonRequest{Sides: sides, Question: "failure"}))(t)
	if len(c.Faults) != 1 || c.Faults[0].Symptom != "void" || c.Faults[0].Sides[1].Specimens != 3 || c.Faults[0].Sides[0].Of != 3 || c.Faults[0].Says != "only on B, on 3 prints: it repeats" {
		t.Errorf("%+v", c.Faults)
	}
}
