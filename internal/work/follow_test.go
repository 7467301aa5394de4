package work_test

import (
	"bytes"
	"encoding/csv"
	"encoding/json"
	"strings"
	"testing"
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/work/dataset"
	"ojime/internal/work/printing"
)

// table reads a table of a review by the names of its columns.
func (d *desk) table(review, name string) (rows []map[string]string) {
	d.t.Helper()
	text := must(d.w.Dataset.Table(d.t.Context(), review, name))(d.t)
	lines := must(csv.NewReader(bytes.NewReader(text)).ReadAll())(d.t)
	for _, line := range lines[1:] {
		row := map[string]string{}
		for i, cell := range line {
			row[lines[0][i]] = cell
		}
		rows = append(rows, row)
	}
	return rows
}

// told is a print of which everything is told, with a review that shows it.
func told(t *testing.T) (d *desk, review string, sheet printing.RunSheet) {
	t.Helper()
	d = newDesk(t)
	p, s, yes := quantity.Ptr[float64], quantity.Ptr[string], quantity.Ptr(true)
	must(d.w.Kit.AddEvent(t.Context(), bench.MachineEvent{MachineID: d.machine.ID, AtMS: d.clock.Add(-50 * 24 * time.Hour).UnixMilli(), Kinds: bench.IDs{"film", "relevel"}, Changes: bench.Changes{{What: "film type", To: "fluoropolymer"}}}))(t)
	profile := d.settings(func(f *bench.Profile) {
		f.Name, f.Note, f.LightPowerPct, f.WaitLiftS, f.Options = "Winter", "for cold rooms", p(85), p(1.25), bench.Options{{Name: "blur", Value: "2", Unit: "px"}}
	})
	sheet = d.run(func(r *bench.Run) {
		r.ProfileID = profile.ID
		r.Software, r.SoftwareEstimateS, r.ResinUsedG = s("Carver 3"), p(1700), p(13.2)
		r.RoomTempC, r.ResinTempC, r.FilmClouded, r.LevelOff = p(18.5), p(24.5), yes, yes
		r.Orientation, r.Supports, r.WashS, r.CureS, r.Surface, r.AttendedMin = s("tilted 30°"), s("0.3 mm tips"), p(180), p(240), s("raw"), p(11)
		r.Observed, r.Notes, r.PausedS = "a draught from the door", "smelled of solvent", 60
	})
	list := sheet.Specimens
	list[0].Outcome, list[0].Note = "whole", "the best of them"
	ruin(&list[1], "lost", "delamination", "printed", "resin")
	list[1].Defects[0].Note, list[1].Defects[0].BeganMM, list[1].Defects[0].Severity = "a third up", p(1.5), "grave"
	ruin(&list[2], "lost", "broken in handling", "handling", "operator")
	must(d.w.Inspect.JudgeSpecimens(t.Context(), sheet.Run.ID, list))(t)
	d.measured(sheet, 0, 0, 30.07, nil)
	slip := d.measured(sheet, 0, 0, 30.55, nil)
	must(d.w.Inspect.TakeBack(t.Context(), sheet.Run.ID, slip.ID, "slipped off the edge"))(t)
	r := must(d.w.Reviews.SaveReview(t.Context(), bench.Review{Question: "Which?", Policy: "maker_default", MachineIDs: bench.IDs{d.machine.ID}, ResinIDs: bench.IDs{d.resin.ID}, PieceIDs: bench.IDs{d.piece.Piece.ID},
		Readers: "painters", Verdict: "This one.", Disclosure: "bought", NotTested: "noise"}))(t)
	return d, r.ID, must(d.w.Printing.RunSheet(t.Context(), sheet.Run.ID))(t)
}

// What is entered of a print is in the tables that go out, each in its column.
func TestWhatIsEnteredIsInTheTables(t *testing.T) {
	d, review, sheet := told(t)
	runs := d.table(review, "runs")
	if len(runs) != 1 {
		t.Fatalf("%d rows of one print", len(runs))
	}
	for column, want := range map[string]string{
		"run": sheet.Run.Code, "machine": "Ossik 7", "resin": "Plain Grey", "settings": "U-02 Winter (default)", "pieces": "3 × Wedge", "copies": "3", "ended_how": "finished", "paused_s": "60", "actual_s": "1740",
		"software": "Carver 3", "software_estimate_s": "1700", "resin_used_g": "13.2", "room_temp_c": "18.5", "resin_temp_c": "24.5", "film_layers": "0", "film_clouded": "true", "level_off": "true", "days_since_level": "50",
		"moved_since_level": "false", "observed": "a draught from the door", "orientation": "tilted 30°", "supports": "0.3 mm tips", "wash_s": "180", "cure_s": "240", "surface": "raw", "attended_min": "11", "whole": "1", "lost": "2",
		"failed": "1", "by_machine": "0", "by_resin": "1", "accidents": "1", "pending": "0", "notes": "smelled of solvent", "dial_changed": "false", "started": "2026-09-01 09:00", "film_type": "fluoropolymer",
	} {
		if got := runs[0][column]; got != want && !(column == "started" && strings.HasPrefix(got, "2026-09-01")) {
			t.Errorf("%s is %q, want %q", column, got, want)
		}
	}
	specimens := d.table(review, "specimens")
	if len(specimens) != 3 {
		t.Fatalf("%d rows of three specimens", len(specimens))
	}
	for i, want := range []map[string]string{
		{"specimen": "S-001-01", "piece": "Wedge", "scale_pct": "100", "outcome": "whole", "failed": "false", "note": "the best of them", "symptom": ""},
		{"outcome": "lost", "failed": "true", "failed_by": "resin", "symptom": "delamination", "severity": "grave", "began_mm": "1.5", "began_layer": "30", "origin": "printed", "fault": "resin", "defect_note": "a third up"},
		{"outcome": "lost", "failed": "false", "accident": "true", "symptom": "broken in handling", "origin": "handling", "fault": "operator"},
	} {
		for column, text := range want {
			if got := specimens[i][column]; got != text {
				t.Errorf("specimen %d: %s is %q, want %q", i+1, column, got, text)
			}
		}
	}
	settings := d.table(review, "settings")[0]
	for column, want := range map[string]string{"profile": "U-02", "name": "Winter", "note": "for cold rooms", "light_power_pct": "85", "wait_lift_s": "1.25", "options": "blur 2 px", "exposure_s": "2", "bottom_layers": "4",
		"bottom_exposure_s": "30", "transition_layers": "3", "lift": "6 mm at 60 mm/min", "retract": "6 mm at 120 mm/min", "antialiasing": "on", "layer_um": "50", "basis": "default"} {
		if settings[column] != want {
			t.Errorf("settings: %s is %q, want %q", column, settings[column], want)
		}
	}
	readings := d.table(review, "readings")
	if len(readings) != 2 || readings[0]["value_mm"] != "30.07" || readings[0]["counts"] != "yes" || readings[1]["value_mm"] != "30.55" || readings[1]["counts"] != "taken back: slipped off the edge" {
		t.Errorf("readings %+v", readings)
	}
	if r := readings[0]; r["feature"] != "Length" || r["nominal_mm"] != "30" || r["axis"] != "x" || r["piece"] != "Wedge" {
		t.Errorf("a reading's feature: %+v", r)
	}
}

// What is entered of a print is in the write-up, too, in its words.
func TestWhatIsEnteredIsInTheWriteUp(t *testing.T) {
	d, review, _ := told(t)
	text := string(must(d.w.Publish.WriteUp(t.Context(), review))(t))
	for _, want := range []string{"Readers: painters.", "## Disclosure\n\nbought", "This one.", "noise", "3 × Wedge", "U-02 Winter (default)", "light at 85 %", "blur 2 px", "rest after lift 1.25 s", "took 29 min",
		"24.5 °C", "18.5 °C", "a draught from the door", "smelled of solvent", "film seen clouded", "level seen off", "washed for 3 min", "cured for 4 min", "paused for 1 min", "surface raw", "prepared in Carver 3", "tilted 30°", "0.3 mm tips", "fluoropolymer"} {
		if !strings.Contains(text, want) {
			t.Errorf("the write-up says nothing of %q", want)
		}
	}
	if strings.Contains(text, "<no value>") || strings.Contains(text, "NaN") || strings.Contains(text, "%!") {
		t.Errorf("the write-up has a hole:\n%s", text)
	}
}

func TestTablesThatAreNone(t *testing.T) {
	d, review, _ := told(t)
	if _, err := d.w.Dataset.Table(t.Context(), review, "secrets"); err == nil {
		t.Error("a table that is none was written")
	}
	for _, name := range dataset.Names {
		if _, err := d.w.Dataset.Table(t.Context(), "no-review", name); err == nil {
			t.Errorf("%s of no review", name)
		}
	}
}

// A file of the layout before is carried over as its record was: pieces with their
// specimens, one defect each, knots of what was typed.
func TestAFileOfTheOlderLayoutIsCarriedOver(t *testing.T) {
	d := fullDesk(t)
	var file map[string]any
	if err := json.Unmarshal(exported(t, d.w), &file); err != nil {
		t.Fatal(err)
	}
	delete(file, "format")
	run := file["runs"].([]any)[0].(map[string]any)
	run["piece_id"], run["scale_pct"], run["film_layers"], run["days_since_level"], run["moved_since_level"] = d.piece.Piece.ID, 100.0, 4200.0, 12.0, true
	specimens := file["specimens"].([]any)
	for i, s := range specimens {
		old := s.(map[string]any)
		delete(old, "defects")
		delete(old, "scale_pct")
		old["piece_id"] = nil
		if i == 0 {
			old["outcome"], old["symptom"], old["origin"], old["fault"], old["severity"], old["began_mm"] = "lost", "void", "printed", "machine", "grave", 1.5
		}
	}
	for _, e := range file["events"].([]any) {
		old := e.(map[string]any)
		old["kind"] = old["kinds"].([]any)[0]
		delete(old, "kinds")
	}
	for _, f := range file["features"].([]any) {
		old := f.(map[string]any)
		old["side"] = old["face"]
		delete(old, "face")
	}
	other := newEmpty(t, d)
	text, err := json.Marshal(file)
	if err != nil {
		t.Fatal(err)
	}
	text = append([]byte(`{"format":"ojime-record-1",`), text[1:]...) // a file begins with its format
	must(other.Record.Import(t.Context(), bytes.NewReader(text)))(t)
	sheet := must(other.Printing.RunSheet(t.Context(), run["id"].(string)))(t)
	if f := sheet.Features[0]; f.Face == nil || *f.Face != "outer" {
		t.Errorf("a face that the file calls a side: %+v", f)
	}
	if len(sheet.Pieces) != 1 || sheet.Pieces[0].ID != d.piece.Piece.ID || sheet.Specimens[0].ScalePct != 100 {
		t.Errorf("pieces %+v", sheet.Pieces)
	}
	first := sheet.Specimens[0]
	if len(first.Defects) != 1 || first.Defects[0].Symptom != "void" || *first.Defects[0].BeganMM != 1.5 || !first.Failed || first.FailedBy != "machine" {
		t.Errorf("its defect: %+v", first)
	}
	if sheet.Run.Observed != "Noted then: 4 200 layers on the film. 12 days since levelling." {
		t.Errorf("observed %q", sheet.Run.Observed)
	}
	if c := sheet.Condition; c.Film.Amount == nil || *c.Film.Amount != 4200 || c.Level.Days == nil || *c.Level.Days != 12 || c.Level.Moved == nil || !*c.Level.Moved {
		t.Errorf("its condition: film %+v, level %+v", c.Film, c.Level)
	}
	if wrong := must(other.Record.Check(t.Context()))(t); len(wrong) > 0 {
		t.Errorf("check: %v", wrong)
	}
}
