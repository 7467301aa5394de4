package work_test

import (
	"fmt"
	"strings"
	"testing"

	"ojime/internal/work/inspect"
)

// A table is shown row by row before it is brought in; what can be kept is, the rest says why
// not, and a table brought in twice is asked about.
func TestATableOfReadingsIsBroughtIn(t *testing.T) {
	d := newDesk(t)
	run := d.wholePrint(0)
	width, pins, check := d.piece.Features[0], d.piece.Features[1], d.piece.Features[2]
	code := func(i int) string { return run.Specimens[i].Code }
	mm := fmt.Sprintf("%.2f", *width.NominalMM+0.05)
	in := inspect.ReadingTable{InstrumentID: d.tool.ID, Text: strings.Join([]string{
		"specimen;feature;value_mm;rung_mm;intact;state;instrument;by",
		code(0) + ";" + strings.ToUpper(width.Name) + ";" + strings.Replace(mm, ".", ",", 1) + ";;;;;Marn",
		strings.ToLower(code(1)) + ";" + width.Name + ";" + mm + ";;;;Caliper;",
		code(0) + ";" + width.Name + ";999;;;;;",
		code(2) + ";" + width.Name + ";;;;;;",
		code(0) + ";" + pins.Name + ";;" + fmt.Sprint(pins.RungsMM[0]) + ";yes;;;",
		code(0) + ";" + pins.Name + ";;" + fmt.Sprint(pins.RungsMM[0]) + ";no;;;",
		code(0) + ";" + check.Name + ";;;;present;;",
		code(0) + ";" + check.Name + ";;;;gone;;",
		"S-999-01;" + width.Name + ";1;;;;;",
		code(0) + ";charm;1;;;;;",
		code(0) + ";" + width.Name + ";1;;;;Ruler;",
	}, "\n")}
	want := []string{"kept", "kept", "questioned", "kept", "refused was read already", "kept", "refused", "refused no copy", "refused its piece has no feature", "refused no instrument"}
	look := func(out inspect.ImportedReadings) {
		t.Helper()
		if out.Kept != 4 || out.Questioned != 1 || out.Refused != 5 || out.Empty != 1 || len(out.Left) != 1 || out.Left[0] != "by" || len(out.Rows) != len(want) {
			t.Fatalf("%+v", out)
		}
		for i, row := range out.Rows {
			if !strings.HasPrefix(row.Fate+" "+row.Says, want[i]) {
				t.Errorf("line %d is %s: %s, want %s", row.Line, row.Fate, row.Says, want[i])
			}
		}
	}
	look(must(d.w.Inspect.PreviewReadings(t.Context(), in))(t))
	if sheet := must(d.w.Printing.RunSheet(t.Context(), run.Run.ID))(t); len(sheet.Readings) != 0 {
		t.Fatal("a preview kept something")
	}
	look(must(d.w.Inspect.ImportReadings(t.Context(), in))(t))
	sheet := must(d.w.Printing.RunSheet(t.Context(), run.Run.ID))(t)
	for _, r := range sheet.Readings { // kept at one instant, they have no order
		if (r.ValueMM != nil) != (r.InstrumentID != nil && *r.InstrumentID == d.tool.ID) {
			t.Errorf("%+v", r)
		}
	}
	if len(sheet.Readings) != 4 {
		t.Errorf("%d readings", len(sheet.Readings))
	}
	again := must(d.w.Inspect.PreviewReadings(t.Context(), in))(t)
	if again.Kept != 0 || again.Questioned != 3 || !strings.Contains(again.Rows[0].Says, "stands on record already") {
		t.Errorf("brought in twice: %+v", again)
	}
	// What is left goes out, is filled in, and comes back.
	name, blank, err := d.w.Inspect.BlankTable(t.Context(), run.Run.ID)
	if err != nil || name != run.Run.Code+"-readings.csv" {
		t.Fatal(name, err)
	}
	lines := strings.Split(strings.TrimSpace(string(blank)), "\n")
	perCopy := 2 + len(pins.RungsMM)
	if len(lines) != 1+3*perCopy-4 {
		t.Errorf("%d lines:\n%s", len(lines), blank)
	}
	filled := strings.Replace(string(blank), code(2)+","+width.Name+","+fmt.Sprint(*width.NominalMM)+",", code(2)+","+width.Name+","+fmt.Sprint(*width.NominalMM)+","+mm, 1)
	back := must(d.w.Inspect.ImportReadings(t.Context(), inspect.ReadingTable{Text: filled, InstrumentID: d.tool.ID}))(t)
	if back.Kept != 1 || back.Refused+back.Questioned != 0 {
		t.Errorf("%+v\n%s", back, filled)
	}
	if _, err := d.w.Inspect.PreviewReadings(t.Context(), inspect.ReadingTable{Text: "hello"}); err == nil || !strings.HasPrefix(err.Error(), "text:") {
		t.Errorf("no table: %v", err)
	}
}
