package work_test

import (
	"bytes"
	"encoding/json"
	"errors"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/work"
	"ojime/internal/work/printing"
	"ojime/internal/work/record"
)

func exported(t *testing.T, w *work.Work) []byte {
	t.Helper()
	var out bytes.Buffer
	if err := w.Record.Export(t.Context(), &out); err != nil {
		t.Fatal(err)
	}
	return out.Bytes()
}

func recordOf(t *testing.T, text []byte) (r record.Record) {
	t.Helper()
	if err := json.Unmarshal(text, &r); err != nil {
		t.Fatal(err)
	}
	return r
}

// A desk with something in every list that another refers to.
func fullDesk(t *testing.T) *desk {
	t.Helper()
	d := newDesk(t)
	run := d.treated()
	must(d.w.Inspect.RecordReadings(t.Context(), run.Run.ID, []bench.Reading{{SpecimenID: run.Specimens[0].ID, FeatureID: d.piece.Features[2].ID, State: quantity.Ptr("present")}}, false))(t)
	must(d.w.Reviews.SaveReview(t.Context(), bench.Review{Question: "Which?", Policy: "maker_default", MachineIDs: bench.IDs{d.machine.ID}, ResinIDs: bench.IDs{d.resin.ID}, PieceIDs: bench.IDs{d.piece.Piece.ID}}))(t)
	casting, sitting := d.casting(), d.sitting("primed", nil)
	d.rates(sitting, run.Run.ID, run.Specimens[0], 2)
	d.rates(sitting, casting.Reference.ID, casting.Specimens[1], 4)
	must(d.w.Inspect.DefineScale(t.Context(), bench.OwnScale{Name: "Spring", Anchors: bench.Notes{"limp", "tired", "plain", "lively", "a bow"}}))(t)
	must(d.w.Kit.SurveyPlate(t.Context(), d.machine.ID, bench.PlateSurvey{LeftMM: 2}))(t)
	must(d.w.FirstDays.MeasureLight(t.Context(), d.machine.ID, bench.LightGrid{Readings: bench.GridRows{{1, 2}, {2, 2}}}))(t)
	must(d.w.Sliced.SliceForRun(t.Context(), run.Run.ID, uploadOf("wedge.zip", slicedFor(t, 140, 140, 1, "{}")), nil))(t)
	d.unpacked()
	d.levelled()
	d.clocks("slice", "2", "done", 60)
	must(d.w.FirstDays.Remark(t.Context(), d.machine.ID, bench.Remark{Kind: "annoyance", About: "lid", What: "it slams", Often: "every_print", Weight: 3}))(t)
	must(d.w.Printing.ReadRoom(t.Context(), run.Run.ID, bench.RoomReading{Moment: "end", RoomTempC: quantity.Ptr(21.0), HeaterOn: quantity.Ptr(true)}))(t)
	d.housed("Garage", 18)
	must(d.w.Templates.SaveRoom(t.Context(), bench.Workroom{Name: "Attic"}))(t)
	must(d.w.Templates.SaveChecklist(t.Context(), bench.Checklist{Kind: "figure", Checkpoints: bench.Checkpoints{{Name: "Face"}}}))(t)
	must(d.w.Templates.SaveChecklist(t.Context(), bench.Checklist{Kind: "bust", Checkpoints: bench.Checkpoints{}}))(t)
	d.unitPictured("The box")
	made := d.printerOf(false)
	d.receives(made.Token, d.word(1, 0, "idle"), d.word(2, 0, "idle"))
	return d
}

// Whatever is wrong with a file is named, and nothing of it is written.
func TestABrokenRecordIsNamedAndNothingIsWritten(t *testing.T) {
	d := fullDesk(t)
	d.stressed()
	text := exported(t, d.w)
	whole := recordOf(t, text)
	other := newEmpty(t, d)
	for at, spoil := range map[string]func(*record.Record){
		"format":                   func(r *record.Record) { r.Format = "another" },
		"machines[0].name":         func(r *record.Record) { r.Machines[0].Name = strings.Repeat("x", 400) },
		"machines[0].discount":     func(r *record.Record) { r.Machines[0].PriceList, r.Machines[0].PriceDiscount = quantity.Ptr(1.0), 2 },
		"machines[0].light_engine": func(r *record.Record) { r.Machines[0].LightEngine = "candle" },
		"resins[0].name":           func(r *record.Record) { r.Resins[0].Name = "" },
		"specimens[0].outcome":     func(r *record.Record) { r.Specimens[0].Outcome = "splendid" },
		"runs[0].machine_id":       func(r *record.Record) { r.Runs[0].MachineID = "nobody" },
		"runs[0].started_ms":       func(r *record.Record) { r.Runs[0].StartedMS = 9e18 },
		"specimens[0].run_id":      func(r *record.Record) { r.Specimens[0].RunID = "" },
		"specimens[1].id":          func(r *record.Record) { r.Specimens[1].ID = r.Specimens[0].ID },
		"runs[0].copies":           func(r *record.Record) { r.Runs[0].Copies = -1 },
		"readings[0].feature_id":   func(r *record.Record) { r.Readings[0].FeatureID = "x" },
		"readings[0].value_mm":     func(r *record.Record) { r.Readings[0].ValueMM = quantity.Ptr(1e308) },
		"reviews[0].machine_ids":   func(r *record.Record) { r.Reviews[0].MachineIDs = bench.IDs{"x"} },
		"reviews[0].left_out[0].run_id": func(r *record.Record) {
			r.Reviews[0].LeftOut = bench.LeftOutList{{RunID: "nobody", Reason: "cold"}}
		},
		"reviews[0].set_ups[0].profile_id": func(r *record.Record) {
			r.Reviews[0].SetUps = bench.SetUpNames{{SetUpRef: bench.SetUpRef{ProfileID: "nobody"}}}
		},
		"reviews[0].deciding[0].against.profile_id": func(r *record.Record) {
			r.Reviews[0].Deciding = bench.Declarations{{Measure: "failures", Against: &bench.SetUpRef{ProfileID: "nobody"}}}
		},
		"plates[0].review_plan_id": func(r *record.Record) {
			r.Plates = append(r.Plates, bench.Plate{ID: "x", Code: "T-99", Name: "x", MachineID: r.Machines[0].ID, ProfileID: &r.Profiles[0].ID, LiquidRatio: 1, ReviewPlanID: quantity.Ptr("nobody")})
			r.Plates[0], r.Plates[len(r.Plates)-1] = r.Plates[len(r.Plates)-1], r.Plates[0]
		},
		"resins[0].bottle_ml":                  func(r *record.Record) { r.Resins[0].BottleML = quantity.Ptr(1e-306) },
		"ratings[0].scale":                     func(r *record.Record) { r.Ratings[0].Scale = "charm" },
		"ratings[0].score":                     func(r *record.Record) { r.Ratings[0].Score = 7 },
		"ratings[0].sitting_id":                func(r *record.Record) { r.Ratings[0].SittingID = "nobody" },
		"ratings[0].specimen_id":               func(r *record.Record) { r.Ratings[0].SpecimenID = quantity.Ptr("nobody") },
		"ratings[1].reference_id":              func(r *record.Record) { r.Ratings[1].ReferenceID = quantity.Ptr("nobody") },
		"ratings[1].copy":                      func(r *record.Record) { r.Ratings[1].Copy = quantity.Ptr[int64](9) },
		"ratings[1].corrects_id":               func(r *record.Record) { r.Ratings[1].CorrectsID = quantity.Ptr("nobody") },
		"sittings[0].light":                    func(r *record.Record) { r.Sittings[0].Light = " " },
		"sittings[0].magnification":            func(r *record.Record) { r.Sittings[0].Magnification = quantity.Ptr(5.0) },
		"rating_scales[0].anchors":             func(r *record.Record) { r.RatingScales[0].Anchors = r.RatingScales[0].Anchors[:3] },
		"reference_readings[0].corrects_id":    func(r *record.Record) { r.ReferenceReadings[0].CorrectsID = quantity.Ptr("nobody") },
		"stress_specimens[0].stress_series_id": func(r *record.Record) { r.StressSpecimens[0].StressSeriesID = "nobody" },
		"stress_tests[0].specimen_id":          func(r *record.Record) { r.StressTests[0].SpecimenID = "nobody" },
		"stress_tests[0].damage":               func(r *record.Record) { r.StressTests[0].Damage = quantity.Ptr[int64](9) },
		"machine_ratings[0].machine_id":        func(r *record.Record) { r.MachineRatings[0].MachineID = "nobody" },
		"machine_ratings[0].rater":             func(r *record.Record) { r.MachineRatings[0].Rater = "" },
		"plate_surveys[0].machine_id":          func(r *record.Record) { r.PlateSurveys[0].MachineID = "nobody" },
		"light_grids[0].machine_id":            func(r *record.Record) { r.LightGrids[0].MachineID = "nobody" },
		"light_grids[0].readings[1]":           func(r *record.Record) { r.LightGrids[0].Readings[1] = []float64{1} },
		"sliced_files[0].run_id":               func(r *record.Record) { r.SlicedFiles[0].RunID = quantity.Ptr("nobody") },
		"sliced_files[0].file_sha256":          func(r *record.Record) { r.SlicedFiles[0].FileSHA256 = "short" },
		"unit_files[0].machine_id":             func(r *record.Record) { r.UnitFiles[0].MachineID = "nobody" },
		"unit_files[0].status":                 func(r *record.Record) { r.UnitFiles[0].Status = "stolen" },
		"unit_files[0].lid_open_mm":            func(r *record.Record) { r.UnitFiles[0].LidOpenMM = quantity.Ptr(1.0) },
		"levellings[0].machine_event_id":       func(r *record.Record) { r.Levellings[0].MachineEventID = "nothing" },
		"levellings[0].first_layer":            func(r *record.Record) { r.Levellings[0].FirstLayer = "fine" },
		"levellings[0].ends[0]":                func(r *record.Record) { r.Levellings[0].Ends = bench.IDs{"rain"} },
		"room_readings[0].run_id":              func(r *record.Record) { r.RoomReadings[0].RunID = "nothing" },
		"room_readings[0].moment":              func(r *record.Record) { r.RoomReadings[0].Moment = "later" },
		"room_readings[0].humidity_pct":        func(r *record.Record) { r.RoomReadings[0].HumidityPct = quantity.Ptr(300.0) },
		"remarks[0].machine_id":                func(r *record.Record) { r.Remarks[0].MachineID = "nothing" },
		"remarks[0].often":                     func(r *record.Record) { r.Remarks[0].Often = "always" },
		"remarks[0].weight":                    func(r *record.Record) { r.Remarks[0].Weight = 6 },
		"workrooms[1].name":                    func(r *record.Record) { r.Workrooms[1].Name = r.Workrooms[0].Name },
		"workrooms[0].humidity_pct":            func(r *record.Record) { r.Workrooms[0].HumidityPct = quantity.Ptr(-3.0) },
		"checklists[1].kind":                   func(r *record.Record) { r.Checklists[1].Kind = r.Checklists[0].Kind },
		"unit_photographs[0].machine_id":       func(r *record.Record) { r.UnitPhotographs[0].MachineID = "nothing" },
		"unit_photographs[0].shows":            func(r *record.Record) { r.UnitPhotographs[0].Shows = "" },
		"unit_photographs[0].copy_sha256":      func(r *record.Record) { r.UnitPhotographs[0].CopySHA256 = strings.Repeat("a", 64) },
		"software_steps[0].piece_id":           func(r *record.Record) { r.SoftwareSteps[0].PieceID = "nothing" },
		"software_steps[0].stage":              func(r *record.Record) { r.SoftwareSteps[0].Stage = "paint" },
		"software_steps[0].software":           func(r *record.Record) { r.SoftwareSteps[0].Software = " " },
		"plate_surveys[0].left_mm":             func(r *record.Record) { r.PlateSurveys[0].LeftMM = -2 },
		"form_readings[0].form_id":             func(r *record.Record) { r.FormReadings[0].FormID = "nothing" },
		"forms[0].kind":                        func(r *record.Record) { r.Forms[0].Kind = "charm" },
		"specimen_stages[0].stage":             func(r *record.Record) { r.Stages[0].Stage = "gilded" },
		"resin_weighings[0].resin_id":          func(r *record.Record) { r.ResinWeighings[0].ResinID = "nobody" },
		"stress_series[0].levels[1]":           func(r *record.Record) { r.StressSeries[0].Levels = bench.Sizes{400, 200} },
		"device_messages[0]":                   func(r *record.Record) { r.Messages[0].DeviceID = "x" },
		"pieces[0].mesh_sha256":                func(r *record.Record) { r.Meshes = map[string][]byte{} },
		"meshes." + whole.Pieces[0].MeshSHA256: func(r *record.Record) {
			r.Meshes = map[string][]byte{whole.Pieces[0].MeshSHA256: []byte("solid changed\nendsolid")}
		},
	} {
		broken := recordOf(t, text)
		spoil(&broken)
		file, err := json.Marshal(broken)
		if err != nil {
			t.Fatal(err)
		}
		_, err = other.Record.Import(t.Context(), bytes.NewReader(file))
		var field *quantity.FieldError
		if !errors.As(err, &field) || !strings.HasPrefix(field.Error(), at) && !strings.Contains(field.Error(), at[strings.LastIndex(at, ".")+1:]) {
			t.Errorf("%s: %v", at, err)
		}
	}
	for _, cut := range []string{"", "{", "[]", "null", string(text[:len(text)/2]), `{"format":"ojime-record-1","machines":5}`, `{"secret":1}`} {
		if _, err := other.Record.Import(t.Context(), strings.NewReader(cut)); err == nil {
			t.Errorf("%.30q was imported", cut)
		}
	}
	after := recordOf(t, exported(t, other))
	files, err := other.Store.Meshes().Names()
	if temp, _ := os.ReadDir(other.Store.TempDir()); len(after.Machines) > 0 || len(files) > 0 || len(temp) > 0 || err != nil {
		t.Errorf("%d machines, meshes %v, left behind %v (%v)", len(after.Machines), files, temp, err)
	}
	must(other.Record.Import(t.Context(), bytes.NewReader(text)))(t)
	if again := exported(t, other); !bytes.Equal(again, text) {
		t.Error("the whole record came back as another")
	}
	if after := recordOf(t, exported(t, other)); len(after.Devices) != 1 || len(after.Messages) != 2 || len(after.Sessions) != 1 {
		t.Errorf("%d devices, %d messages", len(after.Devices), len(after.Messages))
	}
}

// A mesh file that is missing costs its piece's picture, not a page and not the
// export.
func TestAMissingMeshCostsOnePicture(t *testing.T) {
	d := fullDesk(t)
	plateBefore := d.laid(2)
	if err := os.Remove(filepath.Join(d.w.Store.Dir(), "meshes", d.piece.Piece.MeshSHA256)); err != nil {
		t.Fatal(err)
	}
	text := exported(t, d.w)
	if r := recordOf(t, text); len(r.MissingMeshes) != 1 || len(r.Meshes) != 0 {
		t.Errorf("missing %v", r.MissingMeshes)
	}
	other := newEmpty(t, d)
	must(other.Record.Import(t.Context(), bytes.NewReader(text)))(t)
	for name, page := range map[string]func(*work.Work) error{
		"bench":  func(w *work.Work) error { _, err := w.BenchView.Bench(t.Context()); return err },
		"pieces": func(w *work.Work) error { _, err := w.Kit.Pieces(t.Context()); return err },
		"survey": func(w *work.Work) error { return w.Kit.Survey(t.Context()) },
		"plate": func(w *work.Work) error {
			plates, err := w.Planning.Plates(t.Context())
			if err != nil || len(plates) == 0 {
				return errors.Join(err, errors.New("no plate"))
			}
			sheet, err := w.Planning.PlateSheet(t.Context(), plates[0].Plate.ID)
			if err == nil && (!strings.Contains(sheet.Time.Estimate.Reason, "stands in") || sheet.Time.Estimate.TotalS == nil || *sheet.Time.Estimate.TotalS != *plateBefore.Time.Estimate.TotalS) {
				t.Errorf("estimate %+v, was %+v", sheet.Time.Estimate, plateBefore.Time.Estimate)
			}
			return err
		},
		"live": func(w *work.Work) error {
			runs, err := w.Printing.Runs(t.Context(), printing.RunFilter{Most: 10})
			if err != nil {
				return err
			}
			_, err = w.Printing.Live(t.Context(), runs.Lines[0].ID)
			return err
		},
		"runs": func(w *work.Work) error {
			_, err := w.Printing.Runs(t.Context(), printing.RunFilter{Most: 10})
			return err
		},
	} {
		if err := page(other); err != nil {
			t.Errorf("%s: %v", name, err)
		}
	}
	if wrong := strings.Join(must(other.Record.Check(t.Context()))(t), "\n"); !strings.Contains(wrong, "restore it from a backup") {
		t.Errorf("check says %q", wrong)
	}
	if _, err := other.Kit.PiecePicture(t.Context(), d.piece.Piece.ID, 100, "plan"); err == nil || !strings.Contains(err.Error(), "missing") {
		t.Errorf("the picture: %v", err)
	}
}

// What the reviewer types cannot become structure of the write-up.
func TestTheWriteUpEscapesWhatWasTyped(t *testing.T) {
	d := fullDesk(t)
	r := must(d.w.Reviews.Reviews(t.Context()))(t)[0]
	r.Question, r.Verdict, r.Disclosure = "Which | <script>\n# of *these*?", "First.\n\n# Second\n- third | <b>", "[a](http://x) `code`"
	must(d.w.Reviews.SaveReview(t.Context(), r))(t)
	text := string(must(d.w.Publish.WriteUp(t.Context(), r.ID))(t))
	for _, want := range []string{"# Which \\| &lt;script&gt; # of \\*these\\*?\n", "First.\n\n\\# Second\n\\- third \\| &lt;b&gt;", "\\[a\\](http://x) \\`code\\`"} {
		if !strings.Contains(text, want) {
			t.Errorf("%q is not in\n%.400s", want, text)
		}
	}
	if strings.Contains(text, "<script") || strings.Contains(text, "\n# Second") {
		t.Error("what was typed became structure")
	}
}

// A change of a long note stands whole in the history of the record, and travels.
func TestHistoryTravels(t *testing.T) {
	d := newDesk(t)
	run := d.run(func(*bench.Run) {}).Run
	long := strings.Repeat("n", quantity.LongText)
	amended := d.amend(run, `{"notes": "`+long+`"}`).Run
	d.amend(amended, `{"notes": "short"}`)
	other := newEmpty(t, d)
	must(other.Record.Import(t.Context(), bytes.NewReader(exported(t, d.w))))(t)
	there := must(other.Printing.RunSheet(t.Context(), run.ID))(t).History
	if len(there) != 2 || !strings.Contains(there[1].Before, long) || !strings.Contains(there[1].After, "short") {
		t.Errorf("%d changes came across", len(there))
	}
}
