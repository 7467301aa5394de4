package work_test

import (
	"bytes"
	"slices"
	"strings"
	"testing"
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/contest"
	"ojime/internal/core/quantity"
	"ojime/internal/work/compare"
	"ojime/internal/work/inspect"
	"ojime/internal/work/printing"
)

func (d *desk) sitting(stage string, change func(*bench.Sitting)) bench.Sitting {
	d.t.Helper()
	s := bench.Sitting{Rater: "Marn", Station: "in_hand", Stage: stage, Light: "daylight", Scales: bench.IDs{"edges"}}
	if change != nil {
		change(&s)
	}
	return must(d.w.Inspect.BeginSitting(d.t.Context(), s))(d.t)
}

func (d *desk) rates(s bench.Sitting, of string, p bench.Specimen, score int64) []bench.Rated {
	d.t.Helper()
	return must(d.w.Inspect.Rate(d.t.Context(), inspect.Score{SittingID: s.ID, OfID: of, SpecimenID: p.ID, Scale: "edges", Score: score}))(d.t)
}

// whole records a print of three wedges that all came whole.
func (d *desk) wholePrint(hours int) printing.RunSheet {
	d.t.Helper()
	run := d.run(func(r *bench.Run) {
		r.StartedMS += int64(hours) * time.Hour.Milliseconds()
		r.EndedMS = quantity.Ptr(*r.EndedMS + int64(hours)*time.Hour.Milliseconds())
	})
	for i := range run.Specimens {
		run.Specimens[i].Outcome = "whole"
	}
	return must(d.w.Inspect.JudgeSpecimens(d.t.Context(), run.Run.ID, run.Specimens))(d.t)
}

func TestARatingWithoutASittingIsRefused(t *testing.T) {
	d := newDesk(t)
	run := d.wholePrint(0)
	for name, s := range map[string]bench.Sitting{
		"light":         {Rater: "Marn", Station: "in_hand", Stage: "raw", Scales: bench.IDs{"edges"}},
		"rater":         {Light: "lamp", Station: "in_hand", Stage: "raw", Scales: bench.IDs{"edges"}},
		"station":       {Rater: "Marn", Light: "lamp", Stage: "raw", Scales: bench.IDs{"edges"}},
		"stage":         {Rater: "Marn", Light: "lamp", Station: "table", Scales: bench.IDs{"edges"}},
		"magnification": {Rater: "Marn", Light: "lamp", Station: "loupe", Stage: "raw", Scales: bench.IDs{"edges"}},
		"scales":        {Rater: "Marn", Light: "lamp", Station: "table", Stage: "raw"},
		"scales[0]":     {Rater: "Marn", Light: "lamp", Station: "table", Stage: "raw", Scales: bench.IDs{"charm"}},
	} {
		if _, err := d.w.Inspect.BeginSitting(t.Context(), s); err == nil || !strings.HasPrefix(err.Error(), name+":") {
			t.Errorf("%s: %v", name, err)
		}
	}
	s := d.sitting("raw", nil)
	for field, score := range map[string]inspect.Score{
		"sitting_id":  {OfID: run.Run.ID, SpecimenID: run.Specimens[0].ID, Scale: "edges"},
		"scale":       {SittingID: s.ID, OfID: run.Run.ID, SpecimenID: run.Specimens[0].ID, Scale: "charm"},
		"specimen_id": {SittingID: s.ID, OfID: run.Run.ID, SpecimenID: "nobody", Scale: "edges"},
		"score":       {SittingID: s.ID, OfID: run.Run.ID, SpecimenID: run.Specimens[0].ID, Scale: "edges", Score: 5},
	} {
		if _, err := d.w.Inspect.Rate(t.Context(), score); err == nil || !strings.HasPrefix(err.Error(), field+":") {
			t.Errorf("%s: %v", field, err)
		}
	}
}

func TestASecondScoreCorrectsAndBothStay(t *testing.T) {
	d := newDesk(t)
	run := d.wholePrint(0)
	first, s := run.Specimens[0], d.sitting("raw", nil)
	d.rates(s, run.Run.ID, first, 2)
	if now := d.rates(s, run.Run.ID, first, 3); len(now) != 1 || now[0].Score != 3 || now[0].CorrectsID == nil {
		t.Errorf("%+v", now)
	}
	second := d.sitting("raw", func(s *bench.Sitting) { s.Rater = "Oskil" })
	now := d.rates(second, run.Run.ID, first, 1)
	if len(now) != 2 {
		t.Errorf("another sitting corrects nothing: %+v", now)
	}
	if _, err := d.w.Inspect.TakeRatingBack(t.Context(), now[0].ID, ""); err == nil {
		t.Error("taken back without a reason")
	}
	back := must(d.w.Inspect.TakeRatingBack(t.Context(), now[0].ID, "the wrong specimen"))(t)
	if len(back) != 2 || !slices.ContainsFunc(back, func(r bench.Rated) bool { return r.Score == 2 }) {
		t.Errorf("what was corrected counts again: %+v", back)
	}
	sheet := must(d.w.Printing.RunSheet(t.Context(), run.Run.ID))(t)
	if len(sheet.Rerated) != 1 || sheet.Rerated[0].TakenBackWhy != "the wrong specimen" {
		t.Errorf("%+v", sheet.Rerated)
	}
}

// Four prints a side, of which one looks sharp raw and both the same under primer: rows by
// stage, prints as the unit, and the sentence of what primer did.
func TestScoresAreComparedByStageAndStation(t *testing.T) {
	d := newDesk(t)
	var sides [2][]string
	raw, primed := d.sitting("raw", nil), d.sitting("primed", nil)
	again := d.sitting("raw", func(s *bench.Sitting) { s.Rater = "Oskil" })
	for i := range 10 {
		run := d.wholePrint(2 * i)
		side := i % 2
		sides[side] = append(sides[side], run.Run.ID)
		for _, p := range run.Specimens[:2] {
			d.rates(raw, run.Run.ID, p, int64(4-3*side))
			d.rates(primed, run.Run.ID, p, int64(2+(i/2)%2))
		}
		d.rates(again, run.Run.ID, run.Specimens[0], int64(4-3*side))
	}
	ask := compare.ComparisonRequest{Question: "finish", Sides: sides[:]}
	c := must(d.w.Reviews.Compare(t.Context(), ask))(t)
	var rated []contest.Measure
	for _, m := range c.Measures {
		if m.Kind == contest.Score {
			rated = append(rated, m)
		}
	}
	if len(rated) != 2 || rated[0].Label != "Crispness of edges, in hand, raw" || rated[1].Label != "Crispness of edges, in hand, primed" {
		t.Fatalf("%+v", rated)
	}
	if a := rated[0].Sides[0]; *a.Value != 4 || a.Prints != 5 || a.Specimens != 10 || a.Readings != 15 || a.CI[1] > 4 || a.CI[0] > 3.5 {
		t.Errorf("%+v", a)
	}
	if p := rated[0].Pairs[0]; *p.Difference != -3 || p.Verdict == "not_shown" {
		t.Errorf("%+v", p)
	}
	if want := "Crispness of edges, in hand: the difference of B and A that is shown raw is not shown primed."; len(c.Stages) != 1 || c.Stages[0] != want {
		t.Errorf("%q", c.Stages)
	}
	if len(c.Agreement) != 1 || !strings.HasPrefix(c.Agreement[0], "Of 10 pairs of ratings of the same copy on the same scale 10 were the same") {
		t.Errorf("%q", c.Agreement)
	}
	for _, row := range c.Audits[0].Result.Rows {
		if row.Factor == "surface_light" && row.State != "same" {
			t.Errorf("the light of both sides: %+v", row)
		}
	}
}

// A scale of one's own, ratings of a print and of a reference, a correction and one taken
// back: all of it is read back from the file that is written out.
func TestRatingsAreWrittenOutAndReadBack(t *testing.T) {
	d := newDesk(t)
	own := must(d.w.Inspect.DefineScale(t.Context(), bench.OwnScale{Name: "Spring", Anchors: bench.Notes{"a", "b", "c", "d", "e"}}))(t)
	if _, err := d.w.Inspect.DefineScale(t.Context(), bench.OwnScale{Name: "Spring", Anchors: bench.Notes{"a", "b", "c", "d", "e"}}); err == nil {
		t.Error("two scales of one name")
	}
	if _, err := d.w.Inspect.DefineScale(t.Context(), bench.OwnScale{Name: "Give", Anchors: bench.Notes{"a", "b", "c", "d", " "}}); err == nil {
		t.Error("a step without its anchor")
	}
	run, casting := d.wholePrint(0), d.casting()
	s := d.sitting("raw", func(s *bench.Sitting) {
		s.Scales, s.Station, s.Magnification = bench.IDs{"edges", own.Key}, "loupe", quantity.Ptr(5.0)
	})
	d.rates(s, run.Run.ID, run.Specimens[0], 1)
	d.rates(s, run.Run.ID, run.Specimens[0], 2)
	now := d.rates(s, casting.Reference.ID, casting.Specimens[0], 4)
	must(d.w.Inspect.TakeRatingBack(t.Context(), now[0].ID, "a slip"))(t)
	must(d.w.Inspect.Rate(t.Context(), inspect.Score{SittingID: s.ID, OfID: run.Run.ID, SpecimenID: run.Specimens[1].ID, Scale: own.Key, Score: 0}))(t)
	// A corrected reading of the reference has its place in the file too.
	length := casting.Features[slices.IndexFunc(casting.Features, func(f bench.Feature) bool { return f.Kind == "dimension" })]
	reading := bench.ReferenceReading{Copy: 1, FeatureID: length.ID, InstrumentID: &d.tool.ID, ValueMM: length.NominalMM}
	read := must(d.w.Inspect.ReadReference(t.Context(), casting.Reference.ID, []bench.ReferenceReading{reading}, true))(t)
	reading.CorrectsID = &read.Readings[len(read.Readings)-1].ID
	must(d.w.Inspect.ReadReference(t.Context(), casting.Reference.ID, []bench.ReferenceReading{reading}, true))(t)

	file := exported(t, d.w)
	other := newEmpty(t, d)
	must(other.Record.Import(t.Context(), bytes.NewReader(file)))(t)
	if again := exported(t, other); !bytes.Equal(again, file) {
		t.Error("the file changed on its way in and out")
	}
	if wrong := must(other.Record.Check(t.Context()))(t); len(wrong) > 0 {
		t.Errorf("check: %v", wrong)
	}
	for bad, with := range map[string]string{`"scale":"edges"`: `"scale":"charm"`, `"sitting_id":"` + s.ID: `"sitting_id":"nobody`} {
		if _, err := newEmpty(t, d).Record.Import(t.Context(), bytes.NewReader(bytes.Replace(file, []byte(bad), []byte(with), 1))); err == nil || !strings.Contains(err.Error(), "ratings[0].") {
			t.Errorf("%s: %v", with, err)
		}
	}
}
