package work_test

import (
	"errors"
	"strings"
	"testing"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/work/inspect"
)

// The desk's wedge has a size, a ladder and a checkpoint; a plate of two copies has six lines.
func TestWhatWasWrittenOnPaperIsTypedInLineByLine(t *testing.T) {
	d := newDesk(t)
	run := d.runOf(2, nil)
	paper := must(d.w.Inspect.Paper(t.Context(), run.Run.ID))(t)
	var kinds []string
	for _, l := range paper.Lines {
		kinds = append(kinds, l.Kind)
	}
	if got := strings.Join(kinds, " "); got != "size ladder checkpoint size ladder checkpoint" || paper.Unread != 6 || paper.Lines[3].N != 4 || paper.Lines[3].Specimen != run.Specimens[1].Code {
		t.Fatalf("%s, %+v", got, paper)
	}
	typed := inspect.TypedPaper{InstrumentID: d.tool.ID, Lines: []inspect.TypedLine{{N: 1, Text: "30,02"}, {N: 2, Text: "all but 0,2"}, {N: 3, Text: "p"}, {N: 4, Text: "300,1"}, {N: 5, Text: "0.9"}, {N: 6, Text: " "}}}
	look := must(d.w.Inspect.PreviewPaper(t.Context(), run.Run.ID, typed))(t)
	want := []inspect.TypedFate{{N: 1, Fate: "kept", Says: "30.02 mm"}, {N: 2, Fate: "kept", Says: "0.20 mm is not intact, 0.30 mm is intact, 0.40 mm is intact"}, {N: 3, Fate: "kept", Says: "present"}}
	for i, w := range want {
		if look.Fates[i] != w {
			t.Errorf("line %d: %+v, want %+v", i+1, look.Fates[i], w)
		}
	}
	if len(look.Fates) != 5 || look.Fates[3].Fate != "questioned" || look.Fates[4].Fate != "refused" || !strings.Contains(look.Fates[4].Says, "0.2, 0.3 and 0.4 mm") || look.Kept != 3 {
		t.Fatalf("%+v", look)
	}
	if sheet := must(d.w.Printing.RunSheet(t.Context(), run.Run.ID))(t); len(sheet.Readings) != 0 {
		t.Fatal("a look kept readings")
	}
	if kept := must(d.w.Inspect.KeepPaper(t.Context(), run.Run.ID, typed))(t); kept.Kept != 3 {
		t.Errorf("%+v", kept)
	}
	if sheet := must(d.w.Printing.RunSheet(t.Context(), run.Run.ID))(t); len(sheet.Readings) != 5 {
		t.Errorf("%d readings; a size, three rungs and a checkpoint were written", len(sheet.Readings))
	}
	// The numbers of the lines stay; what is read says so, and is not kept twice.
	paper = must(d.w.Inspect.Paper(t.Context(), run.Run.ID))(t)
	if paper.Unread != 3 || paper.Lines[0].Was != "30.02 mm" || paper.Lines[4].N != 5 {
		t.Errorf("%+v", paper)
	}
	again := must(d.w.Inspect.KeepPaper(t.Context(), run.Run.ID, typed))(t)
	if again.Kept != 0 {
		t.Errorf("typed in twice: %+v", again)
	}
	// A ladder is kept whole or not at all.
	must(d.w.Inspect.RecordReadings(t.Context(), run.Run.ID, []bench.Reading{{SpecimenID: run.Specimens[1].ID, FeatureID: d.piece.Features[1].ID, RungMM: quantity.Ptr(0.3), Intact: quantity.Ptr(true)}}, false))(t)
	half := must(d.w.Inspect.KeepPaper(t.Context(), run.Run.ID, inspect.TypedPaper{Lines: []inspect.TypedLine{{N: 5, Text: "all"}}}))(t)
	if half.Kept != 0 || half.Fates[0].Fate != "refused" {
		t.Errorf("half a ladder: %+v", half)
	}
	for _, lines := range [][]inspect.TypedLine{{{N: 7, Text: "p"}}, {{N: 0, Text: "p"}}, {{N: 3, Text: "p"}, {N: 3, Text: "m"}}} {
		var field *quantity.FieldError
		if _, err := d.w.Inspect.KeepPaper(t.Context(), run.Run.ID, inspect.TypedPaper{Lines: lines}); !errors.As(err, &field) || field.Path != "lines" {
			t.Errorf("%+v: %v", lines, err)
		}
	}
}
