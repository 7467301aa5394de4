package work_test

import (
	"archive/zip"
	"bytes"
	"errors"
	"image"
	"image/png"
	"path"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/mesh"
	"ojime/internal/core/quantity"
	"ojime/internal/work/compare"
	"ojime/internal/work/kit"
	"ojime/internal/work/photographs"
	"ojime/internal/work/templates"
)

// housed enters a room in which the machine stands.
func (d *desk) housed(name string, tempC float64) templates.Rooms {
	d.t.Helper()
	out := must(d.w.Templates.SaveRoom(d.t.Context(), bench.Workroom{Name: name, RoomTempC: &tempC, HumidityPct: quantity.Ptr(55.0)}))(d.t)
	id := out.Rooms[len(out.Rooms)-1].Room.ID
	return must(d.w.Templates.Place(d.t.Context(), d.machine.ID, templates.Placing{RoomID: id}))(d.t)
}

func TestAPrintIsExpectedToBeMadeInItsRoom(t *testing.T) {
	d := newDesk(t)
	ctx := t.Context()
	other := must(d.w.Kit.SaveMachine(ctx, bench.Machine{Name: "Tern", LightEngine: "masked_lcd", WidthMM: 120, DepthMM: 70, HeightMM: 150, PxX: quantity.Ptr[int64](3000), PxY: quantity.Ptr[int64](1750), DialStepS: 0.1, ReleaseS: quantity.Ptr(2.0)}))(t).Machine
	early := d.run(func(r *bench.Run) { r.StartedMS -= 9 * 24 * 3600_000; *r.EndedMS = r.StartedMS + 3600_000 })
	rooms := d.housed("Garage", 18)
	stood := func() string {
		t.Helper()
		return must(d.w.Printing.RunSheet(ctx, early.Run.ID))(t).Condition.Fitted.Room
	}
	if stood() != "" {
		t.Error("it stands there from now on, and did before")
	}
	// It stood there all along, also for prints of days before it was entered: that is said anew, without the first knot.
	knot := must(d.w.BenchView.Bench(ctx))(t).Cords[0].Knots[0]
	must(d.w.Kit.RetireEvent(ctx, knot.ID, 1, "it was there before"))(t)
	must(d.w.Templates.Place(ctx, d.machine.ID, templates.Placing{RoomID: rooms.Rooms[0].Room.ID, AllAlong: true, Carried: true}))(t)
	if c := must(d.w.Printing.RunSheet(ctx, early.Run.ID))(t).Condition; stood() != "Garage" || quantity.Or(c.Level.Moved, false) {
		t.Errorf("all along: %+v", c)
	}
	if len(rooms.Rooms) != 1 || rooms.Rooms[0].Machines[0].Name != d.machine.Name || len(rooms.Nowhere) != 1 || rooms.Nowhere[0].ID != other.ID {
		t.Fatalf("%+v", rooms)
	}
	e := must(d.w.Templates.Expected(ctx, d.machine.ID, 0))(t)
	if e.Read.RoomTempC != nil || *e.Usual.RoomTempC != 18 || *e.Usual.HumidityPct != 55 || must(d.w.Printing.DraftRun(ctx, d.machine.ID))(t).Condition.Fitted.Room != "Garage" {
		t.Errorf("what is usual was not read: %+v", e)
	}
	// What was read at one machine tells of the other, while both stand in the same room.
	run := d.run(func(r *bench.Run) { r.EndedMS, r.EndedHow, r.HumidityPct = nil, "", quantity.Ptr(70.0) })
	d.reads(run, bench.RoomReading{Moment: "start", RoomTempC: quantity.Ptr(23.5)})
	// Where it stood all along is no change between its prints.
	compared := must(d.w.Reviews.Compare(ctx, compare.ComparisonRequest{Sides: [][]string{{early.Run.ID}, {run.Run.ID}}, Question: "detail"}))(t)
	if knots := compared.Audits[0].Knots; len(knots) != 0 {
		t.Errorf("changed between: %v", knots)
	}
	if e := must(d.w.Templates.Expected(ctx, other.ID, 0))(t); e.Room != "" || e.ReadMS != nil {
		t.Errorf("it stands nowhere: %+v", e)
	}
	must(d.w.Templates.Place(ctx, other.ID, templates.Placing{RoomID: rooms.Rooms[0].Room.ID, Carried: true}))(t)
	e = must(d.w.Templates.Expected(ctx, other.ID, 0))(t)
	// What was typed for the whole of that print tells of it alone.
	if *e.Read.RoomTempC != 23.5 || e.Read.HumidityPct != nil || e.Usual.RoomTempC != nil || *e.Usual.HumidityPct != 55 || e.ReadAt != run.Run.Code {
		t.Errorf("read beside it: %+v", e)
	}
	if c := must(d.w.Printing.DraftRun(ctx, other.ID))(t).Condition; c.Level.Moved == nil || !*c.Level.Moved {
		t.Error("it was carried there, and counts as not moved")
	}
	// A knot that was tied by hand may write the room as it likes.
	must(d.w.Kit.AddEvent(ctx, bench.MachineEvent{MachineID: other.ID, AtMS: d.clock.UnixMilli() - 1, Kinds: bench.IDs{"stands"}, Changes: bench.Changes{{What: "Room", To: " garage "}}}))(t)
	if e := must(d.w.Templates.Expected(ctx, other.ID, 0))(t); e.Room != "Garage" || *e.Read.RoomTempC != 23.5 {
		t.Errorf("typed otherwise: %+v", e)
	}
	if _, err := d.w.Kit.AddEvent(ctx, bench.MachineEvent{MachineID: other.ID, AtMS: d.clock.UnixMilli(), Kinds: bench.IDs{"stands"}}); err == nil {
		t.Error("it stands nowhere")
	}
	d.clock = d.clock.Add(4 * time.Hour)
	if e := must(d.w.Templates.Expected(ctx, other.ID, 0))(t); *e.Usual.RoomTempC != 18 || e.ReadMS != nil || e.ReadAt != "" {
		t.Errorf("hours later: %+v", e)
	}
}

func TestARoomKeepsItsNameAndIsRetiredEmpty(t *testing.T) {
	d := newDesk(t)
	ctx := t.Context()
	rooms := d.housed("Garage", 18)
	garage := rooms.Rooms[0].Room
	field := func(want string, err error) {
		t.Helper()
		var at *quantity.FieldError
		if !errors.As(err, &at) || at.Path != want {
			t.Errorf("%v, want field %s", err, want)
		}
	}
	_, err := d.w.Templates.SaveRoom(ctx, bench.Workroom{Name: " garage"})
	field("name", err)
	renamed := garage
	renamed.Name = "Shed"
	_, err = d.w.Templates.SaveRoom(ctx, renamed)
	field("name", err)
	_, err = d.w.Templates.SaveRoom(ctx, bench.Workroom{Name: "Oven", RoomTempC: quantity.Ptr(400.0)})
	field("room_temp_c", err)
	garage.RoomTempC = quantity.Ptr(20.0)
	if rooms = must(d.w.Templates.SaveRoom(ctx, garage))(t); *rooms.Rooms[0].Expected.Usual.RoomTempC != 20 {
		t.Errorf("%+v", rooms)
	}
	if _, err = d.w.Templates.RetireRoom(ctx, garage.ID, rooms.Rooms[0].Room.Version); !errors.Is(err, bench.ErrConflict) || !strings.Contains(err.Error(), d.machine.Name) {
		t.Errorf("a machine stands in it: %v", err)
	}
	d.clock = d.clock.Add(time.Second)
	d.housed("Attic", 25)
	rooms = must(d.w.Templates.RetireRoom(ctx, garage.ID, rooms.Rooms[0].Room.Version))(t)
	if len(rooms.Rooms) != 1 || rooms.Rooms[0].Room.Name != "Attic" {
		t.Errorf("%+v", rooms)
	}
	again := must(d.w.Templates.SaveRoom(ctx, bench.Workroom{Name: "garage", RoomTempC: quantity.Ptr(16.0)}))(t)
	if len(again.Rooms) != 2 || again.Rooms[0].Room.ID != garage.ID || again.Rooms[0].Room.Name != "Garage" || *again.Rooms[0].Room.RoomTempC != 16 {
		t.Errorf("in use again: %+v", again.Rooms)
	}
	must(d.w.Templates.RetireRoom(ctx, garage.ID, again.Rooms[0].Room.Version))(t)
	_, err = d.w.Templates.Place(ctx, d.machine.ID, templates.Placing{RoomID: garage.ID})
	field("room_id", err)
}

func TestPiecesOfAKindAreLookedAtAlike(t *testing.T) {
	d := newDesk(t)
	ctx := t.Context()
	list := bench.Checklist{Kind: "Figure", Checkpoints: bench.Checkpoints{{Name: "Face", Place: "front"}, {Name: "Edge"}}}
	kinds := must(d.w.Templates.SaveChecklist(ctx, list))(t)
	if len(kinds) != 1 || kinds[0].Kind != "Figure" || len(kinds[0].Pieces) != 0 {
		t.Fatalf("%+v", kinds)
	}
	made := must(d.w.Kit.ImportPiece(ctx, kit.NewPiece{Name: "Guard", Revision: "1", FileName: "guard.stl", Kind: " figure", File: kit.MeshBytes(mesh.WriteSTL(wedge())),
		Features: []bench.Feature{{Kind: "checkpoint", Name: "edge", RungsMM: bench.Sizes{}}}}, nil))(t)
	if made.Piece.Kind != "figure" || len(made.Features) != 2 || made.Features[1].Name != "Face" || made.Features[1].Place != "front" {
		t.Errorf("%+v", made.Features)
	}
	// What kind an older piece is changes nothing of what is looked at on it.
	must(d.w.Templates.MakeTemplate(ctx, d.profile.ID, d.profile.Version, true))(t)
	must(d.w.History.PutBack(ctx, d.last("profile", d.profile.ID).ID, ""))(t)
	if draft := must(d.w.Templates.SettingsDraft(ctx, templates.DraftRequest{MachineID: d.machine.ID}))(t); draft.TemplateID != "" {
		t.Errorf("%+v", draft)
	}
	card := must(d.w.Kit.SaveKind(ctx, d.piece.Piece.ID, d.piece.Piece.Version, "figure"))(t)
	if card.Piece.Kind != "figure" || len(card.Features) != 3 {
		t.Errorf("%+v", card)
	}
	var field *quantity.FieldError
	if _, err := d.w.Kit.SaveKind(ctx, d.piece.Piece.ID, card.Piece.Version, strings.Repeat("é", 61)); !errors.As(err, &field) || field.Path != "kind" {
		t.Errorf("a kind of 61 letters: %v", err)
	}
	if _, err := d.w.Kit.SaveKind(ctx, d.piece.Piece.ID, d.piece.Piece.Version, "bust"); !errors.Is(err, bench.ErrStale) {
		t.Errorf("a stale version: %v", err)
	}
	list.Kind, list.Checkpoints, list.Version = "FIGURE", list.Checkpoints[:1], kinds[0].Checklist.Version
	kinds = must(d.w.Templates.SaveChecklist(ctx, list))(t)
	if len(kinds) != 1 || kinds[0].Kind != "Figure" || len(kinds[0].Checklist.Checkpoints) != 1 || len(kinds[0].Pieces) != 2 {
		t.Errorf("%+v", kinds)
	}
	if _, err := d.w.Templates.SaveChecklist(ctx, list); !errors.Is(err, bench.ErrStale) {
		t.Errorf("changed meanwhile: %v", err)
	}
}

func TestSettingsBeginWithTheTemplateOfTheirMachine(t *testing.T) {
	d := newDesk(t)
	ctx := t.Context()
	ask := templates.DraftRequest{MachineID: d.machine.ID, ResinID: d.resin.ID, LayerUM: 50}
	if draft := must(d.w.Templates.SettingsDraft(ctx, ask))(t); draft.TemplateID != "" || len(draft.Profile.Lift) != 1 || draft.Profile.BottomLayers != nil || !strings.Contains(draft.From, d.machine.Name) {
		t.Errorf("before any: %+v", draft)
	}
	made := must(d.w.Templates.MakeTemplate(ctx, d.profile.ID, d.profile.Version, true))(t)
	draft := must(d.w.Templates.SettingsDraft(ctx, ask))(t)
	if draft.TemplateID != d.profile.ID || *draft.Profile.ExposureS != 2 || *draft.Profile.BottomLayers != 4 || draft.Profile.ID != "" {
		t.Errorf("%+v", draft)
	}
	ask.LayerUM = 30
	if draft = must(d.w.Templates.SettingsDraft(ctx, ask))(t); draft.Profile.ExposureS != nil || *draft.Profile.BottomLayers != 4 || draft.Profile.LayerUM != 30 {
		t.Errorf("another layer height: %+v", draft.Profile)
	}
	// A row of a table takes what it leaves open.
	d.keeps("settings", "machine;resin;layer_um;exposure_s;options\n"+d.machine.Name+";"+d.resin.Name+";50;3.1;blur = 2 px")
	all := must(d.w.Kit.Profiles(ctx))(t)
	last := all[len(all)-1]
	if *last.ExposureS != 3.1 || *last.BottomLayers != 4 || *last.BottomExposureS != 30 || len(last.Options) != 1 || last.Options[0].Unit != "px" {
		t.Errorf("from a row: %+v", last)
	}
	if _, err := d.w.Templates.MakeTemplate(ctx, d.profile.ID, d.profile.Version, true); !errors.Is(err, bench.ErrStale) {
		t.Errorf("a stale version: %v", err)
	}
	must(d.w.Templates.MakeTemplate(ctx, made.ID, made.Version, false))(t)
	if draft = must(d.w.Templates.SettingsDraft(ctx, ask))(t); draft.TemplateID != "" {
		t.Errorf("let be: %+v", draft)
	}
	sealed := must(d.w.Kit.AddProfile(ctx, bench.Profile{MachineID: d.machine.ID, ResinID: d.resin.ID, LayerUM: 50, Basis: "sealed", SealedName: "Hidden"}))(t)
	if _, err := d.w.Templates.MakeTemplate(ctx, sealed.ID, sealed.Version, true); err == nil {
		t.Error("sealed settings became a template")
	}
}

// unitPictured keeps a photograph of the unit of the machine.
func (d *desk) unitPictured(shows string) ([]bench.UnitPhotograph, photographs.TakenOfUnit) {
	d.t.Helper()
	var picture bytes.Buffer
	if err := png.Encode(&picture, image.NewRGBA(image.Rect(0, 0, 60, 40))); err != nil {
		d.t.Fatal(err)
	}
	taken := photographs.TakenOfUnit{MachineID: d.machine.ID, Shows: shows, FileName: "unit.png", FileBytes: int64(picture.Len()), Read: func() ([]byte, error) { return picture.Bytes(), nil }}
	return must(d.w.Photographs.KeepOfUnit(d.t.Context(), taken, nil))(d.t), taken
}

func TestPhotographsOfAUnit(t *testing.T) {
	d := newDesk(t)
	ctx := t.Context()
	kept, taken := d.unitPictured("Broken corner")
	if len(kept) != 1 || kept[0].Code != "HU-01" || kept[0].WidthPX != 60 || kept[0].Kind != "png" {
		t.Fatalf("%+v", kept)
	}
	if again := must(d.w.Photographs.KeepOfUnit(ctx, taken, nil))(t); len(again) != 1 {
		t.Errorf("sent twice, kept %d times", len(again))
	}
	if _, media, data, err := d.w.Photographs.FileOfUnit(ctx, kept[0].ID, photographs.Small); err != nil || media != "image/jpeg" || len(data) == 0 {
		t.Errorf("%s, %d bytes, %v", media, len(data), err)
	}
	// A backup holds its files.
	backup := filepath.Join(t.TempDir(), "all.zip")
	if err := d.w.Store.Backup(ctx, backup); err != nil {
		t.Fatal(err)
	}
	held, err := zip.OpenReader(backup)
	if err != nil {
		t.Fatal(err)
	}
	names := []string{}
	for _, f := range held.File {
		names = append(names, path.Base(f.Name))
	}
	for _, name := range kept[0].Files() {
		if !slices.Contains(names, name) {
			t.Errorf("a backup lacks %s", name)
		}
	}
	if err := held.Close(); err != nil {
		t.Error(err)
	}
	taken.Shows = " "
	if _, err := d.w.Photographs.KeepOfUnit(ctx, taken, nil); err == nil {
		t.Error("kept without saying what it shows")
	}
	if unneeded := must(d.w.Photographs.Unreferred(ctx))(t); len(unneeded) != 0 {
		t.Errorf("its files count as unneeded: %v", unneeded)
	}
	if _, err := d.w.Photographs.TakeBackOfUnit(ctx, kept[0].ID, " ", false); err == nil {
		t.Error("taken back without a reason")
	}
	back := must(d.w.Photographs.TakeBackOfUnit(ctx, kept[0].ID, "another machine", true))(t)
	if back[0].ErasedMS == nil || back[0].TakenBackWhy != "another machine" {
		t.Errorf("%+v", back[0])
	}
	if _, _, _, err := d.w.Photographs.FileOfUnit(ctx, kept[0].ID, photographs.Small); !errors.Is(err, bench.ErrNotFound) {
		t.Errorf("its file is still there: %v", err)
	}
	if _, err := d.w.Photographs.TakeBackOfUnit(ctx, kept[0].ID, "again", true); !errors.Is(err, bench.ErrConflict) {
		t.Errorf("taken back twice: %v", err)
	}
}

func TestRoomsKindsAndUnitsArePutBackFromTheirHistory(t *testing.T) {
	d := newDesk(t)
	ctx := t.Context()
	room := d.housed("Garage", 18).Rooms[0].Room
	warmer := room
	warmer.RoomTempC = quantity.Ptr(24.0)
	must(d.w.Templates.SaveRoom(ctx, warmer))(t)
	must(d.w.History.PutBack(ctx, d.last("workroom", room.ID).ID, ""))(t)
	if now := must(d.w.Templates.Rooms(ctx))(t).Rooms[0].Room; *now.RoomTempC != 18 || now.Version != 3 {
		t.Errorf("%+v", now)
	}
	list := must(d.w.Templates.SaveChecklist(ctx, bench.Checklist{Kind: "figure", Checkpoints: bench.Checkpoints{{Name: "Face"}}}))(t)[0].Checklist
	emptied := list
	emptied.Checkpoints = bench.Checkpoints{}
	must(d.w.Templates.SaveChecklist(ctx, emptied))(t)
	must(d.w.History.PutBack(ctx, d.last("checklist", list.ID).ID, ""))(t)
	if now := must(d.w.Templates.Kinds(ctx))(t)[0].Checklist; len(now.Checkpoints) != 1 {
		t.Errorf("%+v", now)
	}
	card := must(d.w.Kit.SaveKind(ctx, d.piece.Piece.ID, d.piece.Piece.Version, "bust"))(t)
	must(d.w.History.PutBack(ctx, d.last("piece", card.Piece.ID).ID, ""))(t)
	if now := must(d.w.Kit.Pieces(ctx))(t)[0].Piece; now.Kind != "" {
		t.Errorf("%+v", now)
	}
	unit := *d.unpacked().File
	serial := unit.Serial
	unit.Serial = "misread"
	must(d.w.FirstDays.SaveUnit(ctx, d.machine.ID, unit))(t)
	must(d.w.History.PutBack(ctx, d.last("unit_file", unit.ID).ID, ""))(t)
	if now := must(d.w.FirstDays.Unit(ctx, d.machine.ID, ""))(t).File; now.Serial != serial {
		t.Errorf("its serial is %q, want %q", now.Serial, serial)
	}
}
