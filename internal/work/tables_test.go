package work_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"
	"time"

	"ojime/internal/store"
	"ojime/internal/work/kit"
	"ojime/internal/work/tables"
)

// pasted is a text as a page would send it on.
func (d *desk) pasted(kind, text string) tables.Rows {
	d.t.Helper()
	got := must(d.w.Tables.Paste(kind, text))(d.t)
	if len(got.Columns) == 0 {
		d.t.Fatalf("%q names no columns of %s", text, kind)
	}
	return tables.Rows{Columns: got.Columns, Rows: got.Rows}
}

// fates looks at rows, and holds what becomes of them against what is wanted: fate, and a part of
// what is said of each.
func (d *desk) fates(kind string, in tables.Rows, want ...[2]string) {
	d.t.Helper()
	got := must(d.w.Tables.Look(d.t.Context(), kind, in))(d.t)
	if len(got.Rows) != len(want) {
		d.t.Fatalf("%d rows, want %d: %+v", len(got.Rows), len(want), got.Rows)
	}
	for i, w := range want {
		says := got.Rows[i].Says
		for _, f := range got.Rows[i].Faults {
			says += " | " + f.Column + ": " + f.Says
		}
		if got.Rows[i].Fate != w[0] || !strings.Contains(says, w[1]) {
			d.t.Errorf("%s, row %d is %s (%s), want %s (%s)", kind, i+1, got.Rows[i].Fate, says, w[0], w[1])
		}
	}
}

// keeps keeps all rows, and says which were not.
func (d *desk) keeps(kind, text string) {
	d.t.Helper()
	in := d.pasted(kind, text)
	got := must(d.w.Tables.Keep(d.t.Context(), kind, in))(d.t)
	if got.Kept != len(in.Rows) {
		d.t.Fatalf("%d of %d rows of %s kept: %+v", got.Kept, len(in.Rows), kind, got.Rows)
	}
}

func TestARecordIsFilledFromTables(t *testing.T) {
	d := newDesk(t)
	d.keeps("machines", "Name\tLight\tPlate width\tPlate depth\tHeight\tPixels across\tPixels deep\tLift\tRetract\n"+
		"Tarn\tmasked LCD\t143,4\t89,6\t175\t4096\t2560\t3 at 40; 4 at 120\t7 at 150\n"+
		"Weir\tprojector\t120\t67.5\t200\t1920\t1080\t5 at 60\t5 at 150\n")
	d.keeps("resins", "name,bottle_ml,price_list,bottle,lot\nSlate,1000,32,new,L1\nSlate,,,new,L2\nDune,500,24.5,,\n")
	d.keeps("settings", "machine;resin;layer_um;exposure_s;bottom_layers;bottom_exposure_s\nTarn;Slate;50;2,4;5;30\nWeir;slate;50;3,1;5;35\n")
	d.keeps("features", "piece;kind;name;nominal_mm;axis;face;rungs_mm\n"+d.piece.Piece.Name+";dimension;across;20;x;outer;\n"+d.piece.Piece.Name+";pins;posts;;;;0,2 0,3 0,4\n"+d.piece.Piece.Name+";checkpoint;sword tip;;;;\n")
	d.keeps("prints", "settings\tpieces\tstarted\ttook_s\twhole\troom_temp_c\n"+
		"2.4 s (default), Tarn, Slate\t4 × "+d.piece.Piece.Name+"\t2026-03-01 09:00\t25 min\tall but 3\t21\n")

	ctx := t.Context()
	machines := must(d.w.Kit.Machines(ctx))(t)
	tarn := machines[slices.IndexFunc(machines, func(m kit.MachineCard) bool { return m.Machine.Name == "Tarn" })]
	if tarn.Machine.WidthMM != 143.4 || len(tarn.Machine.Lift) != 2 || tarn.Machine.Lift[1].MMMin != 120 || tarn.Pitch == nil {
		t.Errorf("%+v", tarn)
	}
	profiles := must(d.w.Kit.Profiles(ctx))(t)
	last := profiles[len(profiles)-2]
	if last.MachineID != tarn.Machine.ID || *last.ExposureS != 2.4 || len(last.Lift) != 2 {
		t.Errorf("settings without a lift have the machine's: %+v", last)
	}
	bottles := must(d.w.Kit.Bottles(ctx))(t)
	if n := len(bottles); bottles[n-1].Lot != "L2" || bottles[n-2].Lot != "L1" || bottles[n-1].ResinID != bottles[n-2].ResinID {
		t.Errorf("two bottles of one resin: %+v", bottles)
	}
	lines := must(d.w.Printing.Runs(ctx, store.RunFilter{MachineID: tarn.Machine.ID, Most: 10}))(t)
	if len(lines.Lines) != 1 || lines.Lines[0].Counts.Whole != 3 || lines.Lines[0].Counts.Pending != 1 || *lines.Lines[0].TookS != 1500 {
		t.Fatalf("%+v", lines.Lines)
	}
	run := lines.Lines[0]
	sheet := must(d.w.Printing.RunSheet(ctx, run.ID))(t)
	third := sheet.Specimens[2].Code
	d.keeps("outcomes", fmt.Sprintf("specimen,outcome,symptom,origin,fault,began_mm\n%s,lost,delamination,printed,machine,2\n%s,lost,void,printed,resin,\n", third, third))
	sheet = must(d.w.Printing.RunSheet(ctx, run.ID))(t)
	if s := sheet.Specimens[2]; s.Outcome != "lost" || len(s.Defects) != 2 || s.Defects[0].BeganLayer == nil || *s.Defects[0].BeganLayer != 40 {
		t.Errorf("%+v", s)
	}
}

func TestEveryRowThatIsNotKeptSaysWhy(t *testing.T) {
	d := newDesk(t)
	name := d.machine.Name
	d.fates("machines", d.pasted("machines", "name\tlight_engine\twidth_mm\tdepth_mm\theight_mm\tpx_x\tpx_y\tlift\tretract\n"+
		"Tarn\tlamp\t143\t89\t175\t4096\t2560\t3 at 40\t3 at 40\n"+
		"\tlaser\t143\t89\t175\t\t\t\t\n"+
		"Weir\tmasked LCD\t14,3 cm\t89\t175\t4096\t2560\t3 at 40\t3 at 40\n"+
		"Ford\tmasked LCD\t143\t89\t175\t40960\t25600\t3 at 40\t3 at 40\n"+
		"Mere\tmasked LCD\t143\t89\t175\t4096\t2560\t\t\n"+
		"\t\t\t\t\t\t\t\t\n"+
		name+"\tmasked LCD\t999\t"+fmt.Sprint(d.machine.DepthMM)+"\t"+fmt.Sprint(d.machine.HeightMM)+"\t\t\t\t\n"),
		[2]string{"refused", `light_engine: "lamp" is none of masked lcd, projector, laser`}, [2]string{"refused", "name: is empty"},
		[2]string{"refused", `width_mm: "14,3 cm" is in cm; write it in mm`}, [2]string{"refused", "width_mm: gives a pitch of"},
		[2]string{"refused", "lift: is missing"}, [2]string{"empty", ""}, [2]string{"refused", "stands on record as " + d.machine.Code + " with another plate width"})
	d.fates("settings", d.pasted("settings", "machine,resin,layer_um,exposure_s,bottom_exposure_s,basis\nNone,x,50,2,30,\n"+name+",Nothing,50,2,30,\n"+name+","+d.resin.Name+",5000,2,30,\n"+name+","+d.resin.Name+",50,2,30,calibrated\n"+name+","+d.resin.Name+",50,,30,\n"),
		[2]string{"refused", `machine: "None" is no machine on record`}, [2]string{"refused", `resin: "Nothing" is no resin on record`}, [2]string{"refused", "layer_um: is 5000 µm"},
		[2]string{"refused", "basis: calibrated comes from a series"}, [2]string{"refused", "exposure_s: is missing"})
	d.fates("features", d.pasted("features", "piece,kind,name,nominal_mm\n"+d.piece.Piece.Name+",dimension,a,20\n"+d.piece.Piece.Name+"; Ghost,checkpoint,b,\n"),
		[2]string{"refused", "axis: is missing"}, [2]string{"refused", `piece: "Ghost" is no piece`})
	at := d.clock.Add(-time.Hour).In(time.Local).Format("2006-01-02 15:04")
	later := d.clock.Add(72 * time.Hour).In(time.Local).Format("2006-01-02 15:04")
	d.fates("prints", d.pasted("prints", "settings;pieces;started;took_s;whole\n"+
		"P99;"+d.piece.Piece.Name+";"+at+";2h;\n"+d.profile.Code+";3 Ghosts;"+at+";2h;\n"+d.profile.Code+";"+d.piece.Piece.Name+";yesterday;2h;\n"+d.profile.Code+";"+d.piece.Piece.Name+";"+later+";2h;\n"+
		d.profile.Code+";2 × "+d.piece.Piece.Name+";"+at+";25 min;all but 3\n"+d.profile.Code+";2 × "+d.piece.Piece.Name+";"+at+";;all\n"+d.profile.Code+";"+d.piece.Piece.Name+";"+at+";5 min;all\n"+d.profile.Code+";;"+at+";2h;\n"),
		[2]string{"refused", `settings: "P99" is no settings on record`}, [2]string{"refused", `pieces: "3 Ghosts" is no piece`}, [2]string{"refused", `started: "yesterday" is no moment`},
		[2]string{"refused", "lies in the future"}, [2]string{"refused", "whole: names copy 3 of 2"}, [2]string{"refused", "whole: judges a print that has not ended"},
		[2]string{"questioned", "took_s: makes the print take"}, [2]string{"refused", "pieces: are missing"})
	sheet := d.runOf(2, nil)
	code := strings.TrimSuffix(sheet.Specimens[0].Code, "-01")
	d.fates("outcomes", d.pasted("outcomes", "specimen,outcome,symptom,origin,began_mm\nR-999-01,whole,,,\n"+code+"-01,whole,void,printed,\n"+code+"-01,lost,,printed,\n"+code+"-01,broken,,,\n"+code+"-01,lost,void,printed,900\n"),
		[2]string{"refused", `specimen: "R-999-01" is on no label`}, [2]string{"refused", "symptom: is given of a whole copy"}, [2]string{"refused", "symptom: is empty"},
		[2]string{"refused", `outcome: "broken" is none of`}, [2]string{"refused", "layers"})
}

func TestARefusedRowKeepsNoneOfTheOthersBack(t *testing.T) {
	d := newDesk(t)
	in := d.pasted("resins", "name,bottle_ml,price_list\nSlate,1000,32\nDune,,24\nSlate,1000,32\n")
	got := must(d.w.Tables.Keep(t.Context(), "resins", in))(t)
	if got.Kept != 1 || got.Refused != 1 || got.Same != 1 || got.Rows[1].Faults[0].Column != "bottle_ml" {
		t.Errorf("%+v", got)
	}
	if list := must(d.w.Kit.Resins(t.Context()))(t); len(list) != 2 || list[1].Resin.Name != "Slate" {
		t.Errorf("%+v", list)
	}
	// Kept once, the same rows stand.
	d.fates("resins", in, [2]string{"same", "on record as L2"}, [2]string{"refused", "bottle_ml"}, [2]string{"same", "L2"})
}

func TestABottleLikeAnotherAndAChangedOutcomeAreAskedAbout(t *testing.T) {
	d := newDesk(t)
	d.keeps("resins", "name,bottle_ml,price_list,lot\nSlate,1000,32,L1\n")
	again := d.pasted("resins", "name,lot\nSlate,L1\n")
	d.fates("resins", again, [2]string{"questioned", "is such a bottle"})
	again.Confirmed = true
	d.fates("resins", again, [2]string{"kept", "and a bottle"})

	sheet := d.runOf(2, nil)
	d.keeps("outcomes", "specimen,outcome\n"+sheet.Specimens[0].Code+",whole\n")
	other := d.pasted("outcomes", "specimen,outcome,symptom\n"+strings.ToLower(sheet.Specimens[0].Code)+",lost,void\n")
	d.fates("outcomes", other, [2]string{"questioned", "was judged as whole; is it lost now?"})
	if got := must(d.w.Tables.Keep(t.Context(), "outcomes", other))(t); got.Kept != 0 {
		t.Errorf("%+v", got)
	}
	other.Confirmed = true
	must(d.w.Tables.Keep(t.Context(), "outcomes", other))(t)
	if s := must(d.w.Printing.RunSheet(t.Context(), sheet.Run.ID))(t).Specimens[0]; s.Outcome != "lost" || s.Defects[0].Origin != "unknown" {
		t.Errorf("%+v", s)
	}
}

// BenchmarkLookAtPrints looks at a paste of 200 prints, which is to take at most a second.
func BenchmarkLookAtPrints(b *testing.B) {
	d := newDesk(b)
	var text strings.Builder
	text.WriteString("settings\tpieces\tstarted\ttook_s\twhole\n")
	for i := range 200 {
		at := d.clock.Add(time.Duration(i-400) * time.Hour).In(time.Local)
		fmt.Fprintf(&text, "%s\t%d × %s\t%s\t25 min\tall\n", d.profile.Code, 1+i%4, d.piece.Piece.Name, at.Format("2006-01-02 15:04"))
	}
	in := d.pasted("prints", text.String())
	for b.Loop() {
		if got := must(d.w.Tables.Look(b.Context(), "prints", in))(b); got.Kept != len(in.Rows) {
			b.Fatalf("%+v", got.Rows[0])
		}
	}
}
