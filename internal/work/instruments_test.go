package work_test

import (
	"errors"
	"slices"
	"strings"
	"testing"
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/metrology"
	"ojime/internal/work/compare"
	"ojime/internal/work/instruments"
	"ojime/internal/work/printing"
)

func (d *desk) checked(shown float64) instruments.InstrumentCard {
	d.t.Helper()
	return must(d.w.Instruments.CheckInstrument(d.t.Context(), d.tool.ID, bench.InstrumentCheck{Against: "gauge block 10 mm", TrueValue: 10, ShownValue: shown, Tolerance: 0.02}))(d.t)
}

func (d *desk) sized(run printing.RunSheet, mm float64) string {
	d.t.Helper()
	sheet := must(d.w.Inspect.RecordReadings(d.t.Context(), run.Run.ID, []bench.Reading{{SpecimenID: run.Specimens[0].ID, FeatureID: d.piece.Features[0].ID, InstrumentID: &d.tool.ID, ValueMM: &mm}}, true))(d.t)
	return sheet.Readings[len(sheet.Readings)-1].ID
}

// A check that fails marks the readings since the last good one, on the sheet and in the
// comparison; a good one ends the doubt, and taking the failed one back removes it.
func TestAFailedCheckMarksReadings(t *testing.T) {
	d := newDesk(t)
	a, b := d.wholePrint(-2), d.wholePrint(-4)
	nominal := *d.piece.Features[0].NominalMM
	step := func() { d.clock = d.clock.Add(time.Hour) }
	d.checked(10.01)
	step()
	first := d.sized(a, nominal)
	step()
	card := d.checked(10.05)
	step()
	second := d.sized(b, nominal)
	step()
	if card.State != "out" || len(card.Doubts) != 1 || card.Doubts[0].Readings != 1 || !strings.Contains(card.Doubts[0].Says, "showed 10.05 for 10 mm") {
		t.Errorf("%+v", card)
	}
	card = d.checked(9.99)
	step()
	third := d.sized(b, nominal)
	if card.State != "good" || card.Doubts[0].Readings != 2 || card.Checks[0].ShownValue != 9.99 {
		t.Errorf("%+v", card)
	}
	sheetA, sheetB := must(d.w.Printing.RunSheet(t.Context(), a.Run.ID))(t), must(d.w.Printing.RunSheet(t.Context(), b.Run.ID))(t)
	if !slices.Equal(sheetA.Doubtful, []string{first}) || !slices.Equal(sheetB.Doubtful, []string{second}) || slices.Contains(sheetB.Doubtful, third) {
		t.Errorf("%v %v, want %s and %s", sheetA.Doubtful, sheetB.Doubtful, first, second)
	}
	ask := compare.ComparisonRequest{Question: "dimension", Sides: [][]string{{a.Run.ID}, {b.Run.ID}}}
	if got := must(d.w.Reviews.Compare(t.Context(), ask))(t); len(got.Measuring) != 2 || !strings.Contains(got.Measuring[1], "1 of 2 sizes of B") {
		t.Errorf("%q", got.Measuring)
	}
	if _, err := d.w.Instruments.TakeCheckBack(t.Context(), d.tool.ID, card.Checks[1].ID, ""); err == nil {
		t.Error("taken back without a reason")
	}
	card = must(d.w.Instruments.TakeCheckBack(t.Context(), d.tool.ID, card.Checks[1].ID, "read the wrong block"))(t)
	if len(card.Doubts) != 0 || len(card.Checks) != 3 {
		t.Errorf("%+v", card)
	}
	if _, err := d.w.Instruments.TakeCheckBack(t.Context(), d.tool.ID, card.Checks[1].ID, "again"); !errors.Is(err, bench.ErrConflict) {
		t.Errorf("twice: %v", err)
	}
	if got := must(d.w.Reviews.Compare(t.Context(), ask))(t); len(got.Measuring) != 0 {
		t.Errorf("%q", got.Measuring)
	}
}

// A study is taken in its drawn order, questions a slip, takes its last reading back, and
// shows what Gauge makes of the same readings; then comparisons by that instrument say so.
func TestAStudyIsTakenInItsOrder(t *testing.T) {
	d := newDesk(t)
	begun := must(d.w.Instruments.BeginStudy(t.Context(), d.tool.ID, bench.GaugeStudy{What: "the width", Parts: bench.Notes{"a", "b", "c"}, Operators: bench.Notes{"Marn", "Oskil"}, Repeats: 2}))(t)
	if begun.Study.Code != "G1" || len(begun.Steps) != 12 || begun.Next != 0 || begun.Result != nil {
		t.Fatalf("%+v", begun)
	}
	size := map[string]float64{"a": 10, "b": 10.2, "c": 10.4}
	values := map[[2]string][]float64{}
	read := func(s instruments.Study, off float64) instruments.Study {
		t.Helper()
		step := s.Steps[s.Next]
		v := size[step.Part] + off
		values[[2]string{step.Part, step.Operator}] = append(values[[2]string{step.Part, step.Operator}], v)
		return must(d.w.Instruments.ReadStudy(t.Context(), begun.Study.ID, v, false))(t)
	}
	s := begun
	for i := range 11 {
		s = read(s, []float64{0, 0.01, -0.01}[i%3])
	}
	if _, err := d.w.Instruments.ReadStudy(t.Context(), begun.Study.ID, 101, false); err == nil || !strings.Contains(err.Error(), "before?") {
		t.Errorf("a slip was not questioned: %v", err)
	}
	step := s.Steps[s.Next-1]
	key := [2]string{step.Part, step.Operator}
	values[key] = values[key][:len(values[key])-1]
	if s = must(d.w.Instruments.UndoReading(t.Context(), begun.Study.ID))(t); s.Next != 10 {
		t.Errorf("after undoing: %d", s.Next)
	}
	s = read(read(s, 0.02), 0)
	if s.Result == nil || s.Next != 12 || len(s.Says) < 3 {
		t.Fatalf("%+v", s)
	}
	var in metrology.GaugeInput
	for _, part := range begun.Study.Parts {
		var of [][]float64
		for _, operator := range begun.Study.Operators {
			of = append(of, values[[2]string{part, operator}])
		}
		in.Values = append(in.Values, of)
	}
	if want, err := metrology.Gauge(in); err != nil || want.GaugeSDMM != s.Result.GaugeSDMM || want.PartSDMM != s.Result.PartSDMM {
		t.Errorf("%+v, want %+v, %v", s.Result, want, err)
	}
	if _, err := d.w.Instruments.ReadStudy(t.Context(), begun.Study.ID, 10, false); !errors.Is(err, bench.ErrConflict) {
		t.Errorf("a reading too many: %v", err)
	}
	a, b := d.wholePrint(-2), d.wholePrint(-4)
	d.sized(a, 10)
	d.sized(b, 10)
	if got := must(d.w.Reviews.Compare(t.Context(), compare.ComparisonRequest{Question: "dimension", Sides: [][]string{{a.Run.ID}, {b.Run.ID}}}))(t); len(got.Measuring) != 1 || !strings.Contains(got.Measuring[0], "study G1") {
		t.Errorf("%q", got.Measuring)
	}
	for field, study := range map[string]bench.GaugeStudy{
		"parts[1]": {What: "w", Parts: bench.Notes{"a", "a"}, Operators: bench.Notes{"m"}, Repeats: 2},
		"what":     {What: " ", Parts: bench.Notes{"a", "b"}, Operators: bench.Notes{"m"}, Repeats: 2},
	} {
		if _, err := d.w.Instruments.BeginStudy(t.Context(), d.tool.ID, study); err == nil || !strings.HasPrefix(err.Error(), field+":") {
			t.Errorf("%s: %v", field, err)
		}
	}
	balance := must(d.w.Instruments.SaveInstrument(t.Context(), bench.Instrument{Name: "Kitchen balance", Kind: "balance"}))(t)
	if _, err := d.w.Instruments.BeginStudy(t.Context(), balance.ID, begun.Study); err == nil {
		t.Error("a study of lengths on a balance")
	}
	if _, err := d.w.Instruments.SaveInstrument(t.Context(), bench.Instrument{Name: "Guess", Kind: "eye"}); err == nil {
		t.Error("an eye is no instrument")
	}
	if text := exported(t, d.w); !strings.Contains(string(text), `"gauge_readings"`) {
		t.Error("studies stay at home")
	}
}

// A name that was typed wrong is put right; the one before stays in the history.
func TestAnInstrumentIsRenamed(t *testing.T) {
	d := newDesk(t)
	made := must(d.w.Instruments.SaveInstrument(t.Context(), bench.Instrument{Name: "Calliper", ResolutionMM: 0.01}))(t)
	_, err := d.w.Instruments.RenameInstrument(t.Context(), made.ID, made.Version, "  ")
	wantField(t, err, "name")
	got := must(d.w.Instruments.RenameInstrument(t.Context(), made.ID, made.Version, " Caliper "))(t)
	if got.Name != "Caliper" || got.Kind != made.Kind || got.ResolutionMM != 0.01 {
		t.Errorf("%+v", got)
	}
	if _, err := d.w.Instruments.RenameInstrument(t.Context(), made.ID, made.Version, "Another"); !errors.Is(err, bench.ErrStale) {
		t.Errorf("renamed against an older version: %v", err)
	}
	if history := must(d.w.History.Of(t.Context(), "instrument", made.ID))(t); len(history) != 1 || !strings.Contains(history[0].Before, "Calliper") {
		t.Errorf("%+v", history)
	}
}
