package work_test

import (
	"bytes"
	"errors"
	"strings"
	"testing"
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/contest"
	"ojime/internal/core/quantity"
	"ojime/internal/store/storetest"
	"ojime/internal/work"
	"ojime/internal/work/compare"
	"ojime/internal/work/inspect"
	"ojime/internal/work/reviews"
)

// casting puts a reference of two copies on record, each 30.1 mm long with pins from 0.3 mm.
func (d *desk) casting() inspect.ReferenceSheet {
	d.t.Helper()
	ctx := d.t.Context()
	made := must(d.w.Inspect.SaveReference(ctx, bench.Reference{Name: "Spun casting", PieceID: d.piece.Piece.ID, MadeBy: "casting", Provenance: "from a friend's mould", Copies: 2, Surface: quantity.Ptr("raw")}))(d.t)
	var readings []bench.ReferenceReading
	for n := range int64(2) {
		readings = append(readings, bench.ReferenceReading{Copy: n + 1, FeatureID: d.piece.Features[0].ID, InstrumentID: &d.tool.ID, ValueMM: quantity.Ptr(30.1 + 0.02*float64(n))},
			bench.ReferenceReading{Copy: n + 1, FeatureID: d.piece.Features[2].ID, State: quantity.Ptr("present")})
		for _, rung := range []float64{0.2, 0.3, 0.4} {
			readings = append(readings, bench.ReferenceReading{Copy: n + 1, FeatureID: d.piece.Features[1].ID, RungMM: &rung, Intact: quantity.Ptr(rung >= 0.3)})
		}
	}
	return must(d.w.Inspect.ReadReference(ctx, made.Reference.ID, readings, false))(d.t)
}

func TestAReferenceIsReadAsASpecimenIs(t *testing.T) {
	d := newDesk(t)
	ctx := t.Context()
	sheet := d.casting()
	if sheet.Reference.Code != "F1" || len(sheet.Specimens) != 2 || sheet.Specimens[1].Code != "F1-02" || len(sheet.Readings) != 10 || len(sheet.Ladders) != 1 {
		t.Fatalf("%+v", sheet)
	}
	if d := sheet.Dimensions; d == nil || !quantity.Equal(d.Features[0].ErrorMM, 0.11) {
		t.Errorf("sizes %+v", sheet.Dimensions)
	}
	id, first := sheet.Reference.ID, sheet.Readings[0]
	for field, r := range map[string]bench.ReferenceReading{
		"readings[0].copy":          {Copy: 3, FeatureID: d.piece.Features[0].ID, InstrumentID: &d.tool.ID, ValueMM: quantity.Ptr(30.0)},
		"readings[0].instrument_id": {Copy: 1, FeatureID: d.piece.Features[0].ID, ValueMM: quantity.Ptr(30.0)},
		"readings[0].corrects_id":   {Copy: 1, FeatureID: d.piece.Features[2].ID, State: quantity.Ptr("missing")},
		"readings[0].value_mm":      {Copy: 1, FeatureID: d.piece.Features[0].ID, InstrumentID: &d.tool.ID, ValueMM: quantity.Ptr(3.0)},
	} {
		_, err := d.w.Inspect.ReadReference(ctx, id, []bench.ReferenceReading{r}, false)
		wantField(t, err, field)
	}
	right := must(d.w.Inspect.ReadReference(ctx, id, []bench.ReferenceReading{{Copy: 1, FeatureID: first.FeatureID, InstrumentID: first.InstrumentID, ValueMM: quantity.Ptr(30.2), CorrectsID: &first.ID}}, false))(t)
	if len(right.Readings) != 10 || len(right.Corrected) != 1 {
		t.Errorf("%d readings count, %d are corrected", len(right.Readings), len(right.Corrected))
	}
	_, err := d.w.Inspect.TakeBackOfReference(ctx, id, first.ID, "")
	wantField(t, err, "why")
	back := must(d.w.Inspect.TakeBackOfReference(ctx, id, right.Readings[len(right.Readings)-1].ID, "another copy"))(t)
	if len(back.Readings) != 10 || len(back.Corrected) != 1 || back.Corrected[0].TakenBackWhy != "another copy" {
		t.Errorf("what was corrected counts again: %d, %+v", len(back.Readings), back.Corrected)
	}
	if _, err := d.w.Inspect.TakeBackOfReference(ctx, id, back.Corrected[0].ID, "again"); !errors.Is(err, bench.ErrConflict) {
		t.Errorf("taken back twice: %v", err)
	}
	// What was read holds on to its piece and its copies; it is no print.
	r := back.Reference
	r.Copies = 1
	_, err = d.w.Inspect.SaveReference(ctx, r)
	wantField(t, err, "copies")
	r.Copies, r.PieceID = 4, d.part("Cap").Piece.ID
	_, err = d.w.Inspect.SaveReference(ctx, r)
	wantField(t, err, "piece_id")
	if _, err := d.w.Printing.RunSheet(ctx, id); !errors.Is(err, bench.ErrNotFound) {
		t.Errorf("as a print it is %v", err)
	}
	if _, err := d.w.Inspect.Reference(ctx, d.run(nil).Run.ID); !errors.Is(err, bench.ErrNotFound) {
		t.Errorf("a print as a reference is %v", err)
	}
	if all := must(d.w.Inspect.References(ctx))(t); len(all) != 1 || all[0].Reference.ID != id {
		t.Errorf("%+v", all)
	}
}

// A reference is a side without time, failures, finish or cost, and without a p: it is one
// print at best.
func TestAReferenceIsASide(t *testing.T) {
	d := newDesk(t)
	ctx := t.Context()
	ref := d.casting().Reference
	for range 3 {
		d.seen(d.profile.ID, 2, 0, 30.02, 0.2, 30*time.Minute)
	}
	review := must(d.w.Reviews.SaveReview(ctx, bench.Review{Question: "As good as a casting?", Policy: "maker_default", MachineIDs: bench.IDs{d.machine.ID}, ResinIDs: bench.IDs{d.resin.ID}, PieceIDs: bench.IDs{d.piece.Piece.ID}, ReferenceIDs: bench.IDs{ref.ID}}))(t)
	setups := must(d.w.Reviews.SetUps(ctx, review.ID))(t)
	if len(setups) != 2 || setups[1].ReferenceID != ref.ID || setups[1].Label != "Reference Spun casting (casting)" {
		t.Fatalf("%+v", setups)
	}
	c := must(d.w.Reviews.Compare(ctx, compare.ComparisonRequest{Sides: [][]string{setups[0].RunIDs, setups[1].RunIDs}, PieceID: d.piece.Piece.ID, ReviewID: review.ID, Baseline: -1, Question: "dimension"}))(t)
	if s := c.Sides[1]; s.ReferenceID != ref.ID || s.Outcomes.Judged != 0 || s.Cost != nil || s.Rose != nil || s.Copies != 2 || len(c.InTime) != 3 || len(c.Eyes) != 0 {
		t.Errorf("%+v", s)
	}
	for _, key := range []string{"failures", "blemished", "time ", "cost", "marks"} {
		if m := measure(t, c, key); m.Sides[1].Value != nil || !strings.HasPrefix(m.Sides[1].Note, "A reference") {
			t.Errorf("%s: %+v", key, m.Sides[1])
		}
	}
	size := measure(t, c, "size ")
	if p := size.Pairs[0]; size.Sides[1].Value == nil || !quantity.Equal(*size.Sides[1].Value, 0.11) || p.P != nil || p.Difference == nil || p.Verdict != "not_shown" {
		t.Errorf("size %+v, %+v", size.Sides[1], size.Pairs)
	}
	if m := measure(t, c, "ladder "); m.Sides[1].Value == nil || *m.Sides[1].Value != 0.3 {
		t.Errorf("ladder %+v", m.Sides[1])
	}
	if m := measure(t, c, "checkpoint "); m.Sides[1].Value == nil || *m.Sides[1].Value != 1 || m.Pairs[0].Kinds != 0 {
		t.Errorf("checkpoint %+v", m.Sides[1])
	}
	if len(c.Audits) != 1 || len(c.Audits[0].Knots) != 0 || c.Audits[0].Result.Grade == "fair" {
		t.Errorf("audit %+v", c.Audits)
	}
	if len(reviews.AcrossPieces(setups)) != 1 || len(must(d.w.Reviews.Decidable(ctx, review.ID))(t).SetUps) != 1 {
		t.Error("a reference is no set-up that may decide, nor one of several pieces")
	}
	for _, said := range c.Answers {
		if strings.Contains(said, "a reference") {
			t.Errorf("a reference contends: %s", said)
		}
	}
	mixed := compare.ComparisonRequest{Sides: [][]string{setups[0].RunIDs, {ref.ID, setups[0].RunIDs[0]}}, Question: "detail"}
	if _, err := d.w.Reviews.Compare(ctx, mixed); !errors.Is(err, bench.ErrConflict) {
		t.Errorf("a reference among prints: %v", err)
	}
	both := must(d.w.Reviews.Compare(ctx, compare.ComparisonRequest{Sides: [][]string{{ref.ID}, {ref.ID}}, Question: "failure"}))(t)
	if m := both.Measures[0]; m.Kind != contest.Share || m.Sides[0].Value != nil {
		t.Errorf("two references: %+v", m)
	}
	text := string(must(d.w.Publish.WriteUp(ctx, review.ID))(t))
	for _, want := range []string{"- Spun casting (casting, 2): from a friend's mould", "**B**: Reference Spun casting (casting) (F1)"} {
		if !strings.Contains(text, want) {
			t.Errorf("the write-up lacks %q", want)
		}
	}
	if rows := string(must(d.w.Dataset.Table(ctx, review.ID, "readings"))(t)); !strings.Contains(rows, "F1,F1-02,Wedge") || strings.Contains(string(must(d.w.Dataset.Table(ctx, review.ID, "runs"))(t)), "F1") {
		t.Errorf("the tables say\n%s", rows)
	}
}

func TestReferencesTravelWithTheRecord(t *testing.T) {
	d := newDesk(t)
	d.casting()
	text := exported(t, d.w)
	empty := storetest.Open(t)
	other := work.New(empty, func() time.Time { return d.clock }, nil)
	for _, wrong := range []string{`"copy":-2`, `"copy":9`} {
		_, err := other.Record.Import(t.Context(), bytes.NewReader(bytes.Replace(text, []byte(`"copy":2,"feature_id"`), []byte(wrong+`,"feature_id"`), 1)))
		if err == nil || !strings.Contains(err.Error(), "copy") {
			t.Errorf("a reading with %s: %v", wrong, err)
		}
	}
	must(other.Record.Import(t.Context(), bytes.NewReader(text)))(t)
	if all := must(other.Inspect.References(t.Context()))(t); len(all) != 1 || len(all[0].Readings) != 10 || all[0].Reference.Provenance != "from a friend's mould" {
		t.Errorf("%+v", all)
	}
	if again := exported(t, other); !bytes.Equal(again, text) {
		t.Error("the record that was read back is another")
	}
}
