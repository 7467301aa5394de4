package work_test

import (
	"bytes"
	"image"
	"image/color"
	"image/jpeg"
	"image/png"
	"math"
	"slices"
	"strings"
	"testing"

	"ojime/internal/bench"
	"ojime/internal/core/contest"
	"ojime/internal/core/photo"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work/compare"
	"ojime/internal/work/photographs"
	"ojime/internal/work/printing"
	"ojime/internal/work/task"
)

// edgePNG is a picture of an upright edge of so many pixels' blur, brighter to the right.
func edgePNG(t *testing.T, sigma float64) []byte {
	t.Helper()
	in := image.NewGray(image.Rect(0, 0, 400, 300))
	for y := range 300 {
		for x := range 400 {
			in.SetGray(x, y, color.Gray{uint8(120 + 80*math.Erf((float64(x)-199.5)/(sigma*math.Sqrt2)) + float64((x*7+y*13)%3))})
		}
	}
	var out bytes.Buffer
	if err := png.Encode(&out, in); err != nil {
		t.Fatal(err)
	}
	return out.Bytes()
}

// held puts a tag into a JPEG that says how its camera was held, and where.
func held(t *testing.T, in image.Image, orientation byte) []byte {
	t.Helper()
	var plain bytes.Buffer
	if err := jpeg.Encode(&plain, in, nil); err != nil {
		t.Fatal(err)
	}
	exif := "Exif\x00\x00MM\x00*\x00\x00\x00\x08\x00\x01\x01\x12\x00\x03\x00\x00\x00\x01\x00" + string(orientation) + "\x00\x00\x00\x00\x00\x00 by the canal, third door"
	out := append([]byte("\xff\xd8\xff\xe1\x00"), byte(len(exif)+2))
	return append(append(out, exif...), plain.Bytes()[2:]...)
}

func (d *desk) taken(of printing.RunSheet, specimen int, data []byte, change func(*photographs.Taken)) photographs.Taken {
	in := photographs.Taken{OfID: of.Run.ID, SpecimenID: of.Specimens[specimen].ID, Station: "in_hand", Stage: "raw", Light: "a lamp", FileName: "edge.png", FileBytes: int64(len(data)),
		Read: func() ([]byte, error) { return data, nil }}
	if change != nil {
		change(&in)
	}
	return in
}

func (d *desk) photographed(of printing.RunSheet, specimen int, data []byte, change func(*photographs.Taken)) bench.Pictured {
	d.t.Helper()
	return must(d.w.Photographs.Keep(d.t.Context(), d.taken(of, specimen, data, change), nil))(d.t)
}

// A photograph is turned upright, its copies carry none of its tags, the same one sent again
// is no second one, and one of another stage is.
func TestAPhotographIsKeptOnceAndWithoutItsTags(t *testing.T) {
	d := newDesk(t)
	run := d.wholePrint(0)
	data := held(t, image.NewGray(image.Rect(0, 0, 60, 40)), 6)
	p := d.photographed(run, 0, data, nil)
	if p.WidthPX != 40 || p.HeightPX != 60 || p.CopyWidthPX != 40 || p.Kind != "jpeg" || p.Code != "H-001" || !p.Blurred {
		t.Errorf("%+v", p)
	}
	for _, size := range []string{photographs.Large, photographs.Small} {
		_, media, copied, err := d.w.Photographs.File(t.Context(), p.ID, size)
		if err != nil || media != "image/jpeg" || bytes.Contains(copied, []byte("Exif")) || bytes.Contains(copied, []byte("canal")) {
			t.Errorf("%s: %s %q %v", size, media, copied[:30], err)
		}
	}
	if _, _, original, err := d.w.Photographs.File(t.Context(), p.ID, photographs.Original); err != nil || !bytes.Equal(original, data) {
		t.Errorf("the original changed: %v", err)
	}
	if again := d.photographed(run, 0, data, nil); again.ID != p.ID {
		t.Errorf("sent again it became %s", again.Code)
	}
	if other := d.photographed(run, 0, data, func(in *photographs.Taken) { in.Stage = "primed" }); other.ID == p.ID {
		t.Error("the primed one passed for the raw one")
	}
	if sheet := must(d.w.Printing.RunSheet(t.Context(), run.Run.ID))(t); len(sheet.Photographs) != 2 || sheet.Photographs[0].ID != p.ID {
		t.Errorf("%+v", sheet.Photographs)
	}
}

func TestWhatCannotBeKeptIsRefusedByItsField(t *testing.T) {
	d := newDesk(t)
	run, good := d.wholePrint(0), edgePNG(t, 2)
	bomb := append([]byte("\x89PNG\r\n\x1a\n\x00\x00\x00\x0dIHDR\x00\x01\x86\xa0\x00\x01\x86\xa0\x08\x00\x00\x00\x00"), 0xc1, 0x2f, 0x1e, 0x5d)
	for says, in := range map[string]photographs.Taken{
		"file: is a program":      d.taken(run, 0, []byte("MZ\x90\x00 holiday.jpg"), nil),
		"file: is a HEIC picture": d.taken(run, 0, []byte("\x00\x00\x00\x18ftypheic\x00\x00\x00\x00"), nil),
		"file: begins like a":     d.taken(run, 0, good[:len(good)/2], nil),
		"file: has 31 MiB":        d.taken(run, 0, good, func(in *photographs.Taken) { in.FileBytes = 31 << 20 }),
		"file: ":                  d.taken(run, 0, bomb, nil),
		"light: ":                 d.taken(run, 0, good, func(in *photographs.Taken) { in.Light = " " }),
		"magnification: ":         d.taken(run, 0, good, func(in *photographs.Taken) { in.Station = "loupe" }),
		"specimen_id: ":           d.taken(run, 0, good, func(in *photographs.Taken) { in.SpecimenID = "nobody" }),
		"feature_id: ":            d.taken(run, 0, good, func(in *photographs.Taken) { in.FeatureID = "nothing" }),
	} {
		if p, err := d.w.Photographs.Keep(t.Context(), in, nil); err == nil || !strings.HasPrefix(err.Error(), says) {
			t.Errorf("%s: %+v %v", says, p.Code, err)
		}
	}
	if names := must(d.w.Store.Photographs().Names())(t); len(names) != 0 {
		t.Errorf("what was refused left %v", names)
	}
}

// An edge has its size in mm once the photograph has a scale; the last scale counts, and one
// that is taken back gives way to the one before.
func TestAnEdgeIsMeasuredByTheScaleOfItsPhotograph(t *testing.T) {
	d := newDesk(t)
	p := d.photographed(d.wholePrint(0), 0, edgePNG(t, 4), nil)
	measure := func(m bench.PhotoMeasure) bench.Pictured {
		t.Helper()
		return must(d.w.Photographs.Measure(t.Context(), p.ID, m))(t)
	}
	across := bench.PhotoMeasure{Kind: "edge", FromXPX: 140, FromYPX: 150, ToXPX: 260, ToYPX: 150}
	got := measure(across)
	if edge := got.Measures[0]; edge.SizeMM != nil || math.Abs(edge.SizePX-2*1.28155*4) > 0.8 || edge.N < 20 {
		t.Errorf("without a scale: %+v", edge)
	}
	known := bench.PhotoMeasure{Kind: "scale", FromXPX: 0, FromYPX: 10, ToXPX: 400, ToYPX: 10, KnownMM: quantity.Ptr(4.0), KnownUMM: quantity.Ptr(0.01)}
	got = measure(known)
	if edge := got.Measures[0]; edge.SizeMM == nil || math.Abs(*edge.SizeMM-0.1025) > 0.008 || *edge.UMM <= 0 || *edge.RippleMM > 0.005 || *got.MMPerPX != 0.01 {
		t.Errorf("by a scale: %+v", edge)
	}
	known.KnownMM = quantity.Ptr(8.0)
	got = measure(known)
	if *got.MMPerPX != 0.02 || len(got.Measures) != 3 {
		t.Errorf("by another scale: %+v", got)
	}
	got = must(d.w.Photographs.TakeMeasureBack(t.Context(), p.ID, got.Measures[2].ID, "clicked the wrong line"))(t)
	if *got.MMPerPX != 0.01 || len(got.Measures) != 2 {
		t.Errorf("after taking it back: %+v", got)
	}
	for field, m := range map[string]bench.PhotoMeasure{
		"line":      {Kind: "edge", FromXPX: 10, FromYPX: 150, ToXPX: 120, ToYPX: 150},
		"to_x_px":   {Kind: "length", FromXPX: 10, FromYPX: 150, ToXPX: 401, ToYPX: 150},
		"known_mm":  {Kind: "scale", FromXPX: 10, FromYPX: 150, ToXPX: 40, ToYPX: 150},
		"from_y_px": {Kind: "length", FromXPX: 10, FromYPX: math.NaN(), ToXPX: 40, ToYPX: 150},
	} {
		if _, err := d.w.Photographs.Measure(t.Context(), p.ID, m); err == nil || !strings.HasPrefix(err.Error(), field) {
			t.Errorf("%s: %v", field, err)
		}
	}
}

// A photograph that is taken back is shown nowhere and stays on record; erasing removes its
// files, but not one that another photograph needs.
func TestTakingBackAndErasing(t *testing.T) {
	d := newDesk(t)
	run, data := d.wholePrint(0), edgePNG(t, 2)
	p := d.photographed(run, 0, data, nil)
	other := d.photographed(run, 1, data, nil)
	if _, err := d.w.Photographs.TakeBack(t.Context(), p.ID, "", false); err == nil {
		t.Error("taken back without a reason")
	}
	must(d.w.Photographs.TakeBack(t.Context(), p.ID, "shows the table", false))(t)
	if sheet := must(d.w.Printing.RunSheet(t.Context(), run.Run.ID))(t); len(sheet.Photographs) != 1 {
		t.Errorf("%+v", sheet.Photographs)
	}
	must(d.w.Photographs.TakeBack(t.Context(), p.ID, "shows a face", true))(t)
	if _, _, _, err := d.w.Photographs.File(t.Context(), p.ID, photographs.Large); err == nil {
		t.Error("an erased photograph was shown")
	}
	if !d.w.Store.Photographs().Has(p.OriginalSHA256) {
		t.Error("a file that another photograph needs was removed")
	}
	must(d.w.Photographs.TakeBack(t.Context(), other.ID, "shows a face too", true))(t)
	if names := must(d.w.Store.Photographs().Names())(t); len(names) != 0 {
		t.Errorf("left on disk: %v", names)
	}
	if all := must(task.ReadList(t.Context(), d.w.Base, (*store.Tx).Photographs))(t); len(all) != 2 || all[0].TakenBackWhy != "shows a face" {
		t.Errorf("%+v", all)
	}
}

// Photographs go with the record as their copies; what was received stays behind.
func TestPhotographsAreExportedAsCopies(t *testing.T) {
	d := newDesk(t)
	p := d.photographed(d.wholePrint(0), 0, edgePNG(t, 2), nil)
	must(d.w.Photographs.Measure(t.Context(), p.ID, bench.PhotoMeasure{Kind: "length", FromXPX: 10, FromYPX: 10, ToXPX: 50, ToYPX: 40}))(t)
	var out bytes.Buffer
	if err := d.w.Record.Export(t.Context(), &out); err != nil {
		t.Fatal(err)
	}
	other := newEmpty(t, d)
	if _, err := other.Record.Import(t.Context(), bytes.NewReader(out.Bytes())); err != nil {
		t.Fatal(err)
	}
	if wrong := must(other.Record.Check(t.Context()))(t); len(wrong) != 0 {
		t.Errorf("%q", wrong)
	}
	if got := must(other.Photographs.One(t.Context(), p.ID))(t); got.CopySHA256 != p.CopySHA256 || len(got.Measures) != 1 {
		t.Errorf("%+v", got)
	}
	if _, _, _, err := other.Photographs.File(t.Context(), p.ID, photographs.Large); err != nil {
		t.Error(err)
	}
	if _, _, _, err := other.Photographs.File(t.Context(), p.ID, photographs.Original); err == nil || !strings.Contains(err.Error(), "holds copies only") {
		t.Errorf("the original went along: %v", err)
	}
	// The edge of the copy is measured where the original is not there.
	got := must(other.Photographs.Measure(t.Context(), p.ID, bench.PhotoMeasure{Kind: "edge", FromXPX: 140, FromYPX: 150, ToXPX: 260, ToYPX: 150}))(t)
	if edge := got.Measures[1]; math.Abs(edge.SizePX-2*1.28155*2) > 0.8 {
		t.Errorf("%+v", edge)
	}
	spoilt := bytes.Replace(out.Bytes(), []byte(p.CopySHA256), []byte(strings.Repeat("0", 64)), 1)
	if _, err := newEmpty(t, d).Record.Import(t.Context(), bytes.NewReader(spoilt)); err == nil {
		t.Error("a record without one of its pictures was taken")
	}
}

// A photograph of a defect belongs to a defect of its copy that stands, and goes along to the
// tables; a defect taken back later stays named, and says so.
func TestAPhotographShowsADefect(t *testing.T) {
	d := newDesk(t)
	run := d.judged("pull lines", nil)
	defect := run.Specimens[0].Defects[0]
	of := func(id string) func(*photographs.Taken) {
		return func(in *photographs.Taken) { in.DefectID = id }
	}
	p := d.photographed(run, 0, edgePNG(t, 2), of(defect.ID))
	if p.DefectID == nil || *p.DefectID != defect.ID {
		t.Fatalf("%+v", p.DefectID)
	}
	if again := d.photographed(run, 0, edgePNG(t, 2), nil); again.ID == p.ID {
		t.Error("the same file of the whole copy was taken for that of the defect")
	}
	other := d.judged("warping", func(r *bench.Run) { r.StartedMS -= 9e7; *r.EndedMS -= 9e7 })
	_, err := d.w.Photographs.Keep(t.Context(), d.taken(other, 0, edgePNG(t, 2), of(defect.ID)), nil)
	wantField(t, err, "defect_id")

	review := must(d.w.Reviews.SaveReview(t.Context(), bench.Review{Question: "Which?", Policy: "maker_default", MachineIDs: bench.IDs{d.machine.ID}, ResinIDs: bench.IDs{d.resin.ID}, PieceIDs: bench.IDs{d.piece.Piece.ID}}))(t)
	shown := 0
	for _, row := range d.table(review.ID, "specimens") {
		if row["specimen"] == run.Specimens[0].Code && row["symptom"] == "pull lines" && row["defect_photographs"] == p.Code {
			shown++
		}
	}
	if table := d.table(review.ID, "photographs"); shown != 1 || table[0]["defect"] != "pull lines" || table[1]["defect"] != "" {
		t.Errorf("%d rows show it; %+v", shown, table)
	}

	text := exported(t, d.w)
	if _, err := newEmpty(t, d).Record.Import(t.Context(), bytes.NewReader(text)); err != nil {
		t.Error(err)
	}
	spoilt := bytes.Replace(text, []byte(`"defect_id":"`+defect.ID), []byte(`"defect_id":"`+other.Specimens[0].Defects[0].ID), 1)
	if _, err := newEmpty(t, d).Record.Import(t.Context(), bytes.NewReader(spoilt)); err == nil || !strings.Contains(err.Error(), "photographs[0].defect_id") {
		t.Errorf("a photograph of another copy's defect: %v", err)
	}

	anew := run.Specimens[0]
	anew.Outcome, anew.Defects = "whole", nil
	must(d.w.Inspect.JudgeSpecimens(t.Context(), run.Run.ID, []bench.Specimen{anew}))(t)
	facts := must(d.w.Photographs.SideBySide(t.Context(), []string{p.ID}))(t).Common
	if !slices.ContainsFunc(facts, func(f photo.Fact) bool { return f.Name == "Defect" && f.Value == "pull lines (taken back)" }) {
		t.Errorf("%+v", facts)
	}
	_, err = d.w.Photographs.Keep(t.Context(), d.taken(run, 0, edgePNG(t, 3), of(defect.ID)), nil)
	wantField(t, err, "defect_id")
}

// Edges on photographs are compared print by print, from the same station in the same stage.
func TestEdgesOnPhotographsAreCompared(t *testing.T) {
	d := newDesk(t)
	sides := [][]string{{}, {}}
	var ids []string
	for i := range 6 {
		run := d.wholePrint(-24 * i)
		p := d.photographed(run, 0, edgePNG(t, []float64{2, 6}[i%2]+0.1*float64(i)), nil)
		for _, m := range []bench.PhotoMeasure{
			{Kind: "scale", FromXPX: 0, FromYPX: 10, ToXPX: 400, ToYPX: 10, KnownMM: quantity.Ptr(4.0), KnownUMM: quantity.Ptr(0.0)},
			{Kind: "edge", FromXPX: 140, FromYPX: 150, ToXPX: 260, ToYPX: 150},
		} {
			must(d.w.Photographs.Measure(t.Context(), p.ID, m))(t)
		}
		sides[i%2], ids = append(sides[i%2], run.Run.ID), append(ids, p.ID)
	}
	got := must(d.w.Reviews.Compare(t.Context(), compare.ComparisonRequest{Sides: sides, Question: "detail"}))(t)
	var edge *contest.Measure
	for i, m := range got.Measures {
		if strings.HasPrefix(m.Key, "photo edge raw ") {
			edge = &got.Measures[i]
		}
	}
	if edge == nil || edge.Sides[0].Prints != 3 || math.Abs(*edge.Sides[1].Value-0.165) > 0.03 || edge.Pairs[0].Difference == nil || edge.Pairs[0].Verdict == "not_shown" {
		t.Fatalf("%+v", edge)
	}
	if len(got.Pictures) != 1 || len(got.Pictures[0].Sides[0]) != 3 || got.Pictures[0].Stage != "raw" {
		t.Errorf("%+v", got.Pictures)
	}
	beside := must(d.w.Photographs.SideBySide(t.Context(), ids[:2]))(t)
	if !beside.Scaled || len(beside.Photographs) != 2 || len(beside.Common) < 5 || math.Abs(*beside.Photographs[0].CopyMMPerPX-0.01) > 1e-9 {
		t.Errorf("%+v", beside)
	}
	blind := photographs.SheetRequest{IDs: ids, Labels: []string{"A", "B", "A", "B", "A", "B"}, Blind: true}
	data := must(d.w.Photographs.Sheet(t.Context(), blind))(t)
	if picture, err := png.Decode(bytes.NewReader(data)); err != nil || picture.Bounds().Dx() < 1500 {
		t.Errorf("the sheet: %v", err)
	}
	key := must(d.w.Photographs.Key(t.Context(), blind))(t)
	codes := map[string]bool{}
	for _, row := range key {
		codes[row.Code] = true
	}
	if len(key) != 6 || len(codes) != 6 || strings.Contains(key[0].Code, "H-") {
		t.Errorf("%+v", key)
	}
}
