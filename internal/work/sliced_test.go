package work_test

import (
	"archive/zip"
	"bytes"
	"errors"
	"fmt"
	"image"
	"image/png"
	"math"
	"reflect"
	"strings"
	"testing"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/core/stack"
	"ojime/internal/work/sliced"
)

// slicedWedges are copies of the wedge as they are sliced for the desk's machine at 250 µm: 20
// layers of 4,000 × 2,250 pixels of 40 µm, with a text of settings.
func slicedWedges(t testing.TB, copies int, settings string) []byte {
	return slicedFor(t, 4000, 2250, copies, settings)
}

// slicedFor is slicedWedges for another panel, cut off at its edges.
func slicedFor(t testing.TB, wide, deep, copies int, settings string) []byte {
	t.Helper()
	var out bytes.Buffer
	z := zip.NewWriter(&out)
	put := func(name string, write func(w *bytes.Buffer) error) {
		var body bytes.Buffer
		if err := write(&body); err != nil {
			t.Fatal(err)
		}
		w, err := z.Create(name)
		if err == nil {
			_, err = w.Write(body.Bytes())
		}
		if err != nil {
			t.Fatal(err)
		}
	}
	for layer := range 20 {
		m := image.NewGray(image.Rect(0, 0, wide, deep))
		width := int(750 * (1 - (float64(layer)+0.5)/20))
		for copy := range copies {
			for y := 100; y < min(deep, 600); y++ {
				row := m.Pix[y*m.Stride+100+900*copy:]
				for x := range min(width, wide-100) {
					row[x] = 255
				}
			}
		}
		put(fmt.Sprintf("layers/%d.png", layer+1), func(w *bytes.Buffer) error {
			return (&png.Encoder{CompressionLevel: png.BestSpeed}).Encode(w, m)
		})
	}
	put("print.json", func(w *bytes.Buffer) error { _, err := w.WriteString(settings); return err })
	if err := z.Close(); err != nil {
		t.Fatal(err)
	}
	return out.Bytes()
}

func uploadOf(name string, file []byte) sliced.SlicedUpload {
	return sliced.SlicedUpload{Name: name, Bytes: int64(len(file)), File: bytes.NewReader(file)}
}

const slicedSettings = `{"print": {"layer height mm": 0.25, "exposure": "2 s", "bottom layers": 6, "support tip": "0.3 mm"}, "layers": 20}`

func TestASlicedFileStandsBesideItsPrint(t *testing.T) {
	d := newDesk(t)
	ctx := t.Context()
	coarse := must(d.w.Kit.AddProfile(ctx, bench.Profile{MachineID: d.machine.ID, ResinID: d.resin.ID, LayerUM: 250, ExposureS: quantity.Ptr(2.0), BottomLayers: quantity.Ptr[int64](4), BottomExposureS: quantity.Ptr(30.0), Basis: "default"}))(t)
	run := d.run(func(r *bench.Run) { r.ProfileID = coarse.ID })
	file := slicedWedges(t, 3, slicedSettings)
	var stages []string
	got := must(d.w.Sliced.SliceForRun(ctx, run.Run.ID, uploadOf(`C:\jobs\wedges.zip`, file), func(stage string, _ float64) { stages = append(stages, stage) }))(t)
	if got.Name != "wedges.zip" || len(got.FileSHA256) != 64 || got.Layers != 20 || len(stages) < 21 {
		t.Errorf("%s %s %d, told %d times", got.Name, got.FileSHA256, got.Layers, len(stages))
	}
	// Three wedges of 1.5 ml, each layer cut at its middle.
	if s := got.Solid; s == nil || math.Abs(s.VolumeML-4.5) > 0.02 || math.Abs(s.HeightMM-5) > 1e-9 || s.LargestLayer != 1 || len(s.Islands) != 0 {
		t.Fatalf("%+v", got.Solid)
	}
	if got.MassG == nil || math.Abs(*got.MassG-4.95) > 0.03 || got.TotalS == nil || math.Abs(*got.TotalS-*run.Run.OurEstimateS) > 1e-6 {
		t.Errorf("mass %v, time %v beside %v", got.MassG, got.TotalS, *run.Run.OurEstimateS)
	}
	says := map[string]string{}
	for _, c := range got.Compared {
		says[c.What] = c.Stack + " | " + c.OnRecord + " | " + fmt.Sprint(c.Agrees != nil && *c.Agrees)
	}
	for what, want := range map[string]string{
		"pixels of a layer": "4000 × 2250 | 4000 × 2250 | true",
		"layers":            "20 | 20 in the file's own settings | true",
		"height":            "5 mm | 5 mm without supports | true",
		"layer height":      "250 µm | 250 µm | true",
		"exposure":          "2 s | 2 s | true",
		"bottom layers":     "6 | 4 | false",
		"bottom exposure":   " | 30 s | false",
	} {
		if says[what] != want {
			t.Errorf("%s: %q, want %q", what, says[what], want)
		}
	}
	if got.Differ != 1 || !strings.Contains(got.Says, "20 layers of 250 µm: 5 mm high, 4.49 ml") || !strings.HasSuffix(got.Says, "One value differs from the record.") {
		t.Errorf("%d, %q", got.Differ, got.Says)
	}

	// Another one with a wedge missing says so; the newest comes first; taken back it stays.
	fewer := must(d.w.Sliced.SliceForRun(ctx, run.Run.ID, uploadOf("two.zip", slicedWedges(t, 2, "{}")), nil))(t)
	list := must(d.w.Sliced.SlicedOfRun(ctx, run.Run.ID))(t)
	if len(list) != 2 || list[0].ID != fewer.ID || list[0].Differ != 1 || !reflect.DeepEqual(list[1], got) {
		t.Errorf("%d of them, %+v", len(list), list[0].Compared)
	}
	_, err := d.w.Sliced.TakeSlicedBack(ctx, fewer.ID, " ")
	wantField(t, err, "why")
	back := must(d.w.Sliced.TakeSlicedBack(ctx, fewer.ID, "an old file"))(t)
	if back.TakenBackMS == nil || back.TakenBackWhy != "an old file" {
		t.Errorf("%+v", back)
	}
	if _, err := d.w.Sliced.TakeSlicedBack(ctx, fewer.ID, "again"); !errors.Is(err, bench.ErrConflict) {
		t.Errorf("taken back twice: %v", err)
	}
	_, data, err := d.w.Sliced.SlicedLayersCSV(ctx, got.ID)
	if rows := strings.Split(strings.TrimSpace(string(data)), "\n"); err != nil || len(rows) != 21 || rows[0] != "layer,lit_px,grey_px,area_mm2,outline_mm,regions,islands,largest_island_px" || rows[1] != "1,1096500,0,1754.4,295.44,3,0,0" {
		t.Errorf("%v, %d rows, %q", err, len(rows), rows[:2])
	}

	// It travels with the record.
	other := newEmpty(t, d)
	must(other.Record.Import(ctx, bytes.NewReader(exported(t, d.w))))(t)
	if there := must(other.Sliced.SlicedOfRun(ctx, run.Run.ID))(t); len(there) != 2 || !reflect.DeepEqual(there[1], got) {
		t.Errorf("there %+v", there)
	}
}

func TestASlicedFileStandsBesideSettings(t *testing.T) {
	d := newDesk(t)
	ctx := t.Context()
	got := must(d.w.Sliced.SliceForProfile(ctx, d.profile.ID, uploadOf("a.zip", slicedWedges(t, 1, slicedSettings)), nil))(t)
	// The settings are of 50 µm: the layer height differs, and there are no pieces to hold it against.
	var differ []string
	for _, c := range got.Compared {
		if c.Agrees != nil && !*c.Agrees {
			differ = append(differ, c.What)
		}
	}
	if want := []string{"layer height", "bottom layers"}; !reflect.DeepEqual(differ, want) || math.Abs(got.Solid.HeightMM-1) > 1e-9 {
		t.Errorf("differ %v, want %v; %v mm", differ, want, got.Solid.HeightMM)
	}
	if list := must(d.w.Sliced.SlicedOfProfile(ctx, d.profile.ID))(t); len(list) != 1 || !reflect.DeepEqual(list[0], got) {
		t.Errorf("%+v", list)
	}
	_, err := d.w.Sliced.SliceForProfile(ctx, "nobody", uploadOf("a.zip", nil), nil)
	if !errors.Is(err, bench.ErrNotFound) {
		t.Errorf("beside nothing: %v", err)
	}
	_, err = d.w.Sliced.SliceForProfile(ctx, d.profile.ID, uploadOf("a.bin", []byte("another kind of file")), nil)
	wantField(t, err, "file")
	if list := must(d.w.Sliced.SlicedOfProfile(ctx, d.profile.ID))(t); len(list) != 1 {
		t.Errorf("a refused file is kept: %d", len(list))
	}
}

func TestASlicedFileForAMachineWithoutPixelsSaysWhy(t *testing.T) {
	p := quantity.Ptr[float64]
	d := newDesk(t)
	ctx := t.Context()
	m := d.machine
	m.LightEngine, m.PxX, m.PxY = "laser", nil, nil
	m.SpotUM, m.HatchMM, m.HatchMMS, m.ContourPasses, m.ContourMMS, m.SettleS = p(70), p(0.05), p(1000), quantity.Ptr[int64](1), p(500), p(1)
	d.machine = must(d.w.Kit.SaveMachine(ctx, m))(t).Machine
	got := must(d.w.Sliced.SliceForProfile(ctx, d.profile.ID, uploadOf("a.zip", slicedWedges(t, 1, "{}")), nil))(t)
	if got.Solid != nil || !strings.Contains(got.Reason, "pixels of Ossik 7 are not on record") || got.MassG != nil {
		t.Errorf("%+v, %q", got.Solid, got.Reason)
	}
}

func TestJSONInASlicedFileIsNamedByTheWayToIt(t *testing.T) {
	d := newDesk(t)
	got := must(d.w.Sliced.SliceForProfile(t.Context(), d.profile.ID, uploadOf("a.zip", slicedWedges(t, 1, slicedSettings)), nil))(t)
	want := []stack.Pair{{Name: "layers", Value: "20", From: "print.json"}, {Name: "print.bottom layers", Value: "6", From: "print.json"}, {Name: "print.exposure", Value: "2 s", From: "print.json"},
		{Name: "print.layer height mm", Value: "0.25", From: "print.json"}, {Name: "print.support tip", Value: "0.3 mm", From: "print.json"}}
	if !reflect.DeepEqual(got.Pairs, want) {
		t.Errorf("%+v", got.Pairs)
	}
}
