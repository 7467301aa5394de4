package work_test

import (
	"errors"
	"testing"
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/work/dialin"
	"ojime/internal/work/planning"
	"ojime/internal/work/printing"
)

// strange is a second machine, resin, bottle and settings, which fit nothing of the
// desk's own.
type strange struct {
	machine bench.Machine
	resin   bench.Resin
	bottle  bench.Bottle
	profile bench.Profile
	series  dialin.SeriesSheet
}

func (d *desk) strange() (s strange) {
	d.t.Helper()
	m := d.machine
	m.ID, m.Code, m.Name, m.Version = "", "", "Other", 0
	s.machine = must(d.w.Kit.SaveMachine(d.t.Context(), m))(d.t).Machine
	s.resin = must(d.w.Kit.SaveResin(d.t.Context(), bench.Resin{Name: "Other Grey", BottleML: quantity.Ptr(500.0), PriceList: 10, PriceTaxIncluded: true}))(d.t).Resin
	s.bottle = must(d.w.Kit.SaveBottle(d.t.Context(), bench.Bottle{ResinID: s.resin.ID, Lot: "X"}))(d.t)
	s.profile = d.settings(func(p *bench.Profile) { p.MachineID = s.machine.ID })
	s.series = must(d.w.DialIn.PlanSeries(d.t.Context(), dialin.SeriesPlan{MachineID: s.machine.ID, ResinID: d.resin.ID, LayerUM: 50, School: "detail", FromS: 1, StepS: 0.4, Cells: 4, BottomLayers: 4, BottomExposureS: 30}))(d.t)
	return s
}

// What is put on record of a print holds together, or is refused by the field that does
// not fit.
func TestPrintsThatDoNotHoldTogetherAreRefused(t *testing.T) {
	d := newDesk(t)
	other := d.strange()
	otherResin := d.settings(func(p *bench.Profile) { p.ResinID = other.resin.ID })
	plate := d.laid(2)
	for _, c := range []struct {
		field  string
		change func(*printing.Recording)
	}{
		{"profile_id", func(r *printing.Recording) { r.Run.ProfileID = other.profile.ID }},
		{"profile_id", func(r *printing.Recording) { r.Run.ProfileID = otherResin.ID }},
		{"bottle_id", func(r *printing.Recording) { r.Run.BottleID = &other.bottle.ID }},
		{"pieces", func(r *printing.Recording) { r.Pieces = nil }},
		{"pieces[0].copies", func(r *printing.Recording) { r.Pieces[0].Copies = 0 }},
		{"plate_id", func(r *printing.Recording) {
			r.Run.MachineID, r.Run.ProfileID, r.Run.PlateID, r.Pieces = other.machine.ID, other.profile.ID, &plate.Plate.ID, nil
		}},
		{"id", func(r *printing.Recording) { r.Run.ID = "R" }},
		{"ended_ms", func(r *printing.Recording) { r.Run.EndedMS = quantity.Ptr(r.Run.StartedMS - 1) }},
		{"started_ms", func(r *printing.Recording) { r.Run.StartedMS = 0 }},
		{"started_ms", func(r *printing.Recording) {
			r.Run.StartedMS = d.clock.Add(48 * time.Hour).UnixMilli()
			r.Run.EndedMS = quantity.Ptr(r.Run.StartedMS + 1000)
		}},
		{"resin_temp_c", func(r *printing.Recording) { r.Run.ResinTempC = quantity.Ptr(298.0) }},
	} {
		run := must(d.w.Printing.DraftRun(t.Context(), d.machine.ID))(t).Run
		run.ResinID, run.BottleID, run.ProfileID, run.StartedMS = d.resin.ID, &d.bottle.ID, d.profile.ID, d.clock.Add(-time.Hour).UnixMilli()
		run.EndedMS = quantity.Ptr(run.StartedMS + 30*60*1000)
		in := d.recording(run, 2)
		c.change(&in)
		_, err := d.w.Printing.RecordRun(t.Context(), in)
		wantField(t, err, c.field)
	}
	if kept := must(d.w.Printing.Runs(t.Context(), printing.RunFilter{}))(t).Lines; len(kept) != 0 {
		t.Errorf("%d prints were kept", len(kept))
	}
}

func TestPreparationsThatDoNotHoldTogetherAreRefused(t *testing.T) {
	d := newDesk(t)
	d.withVat(200, 10)
	other := d.strange()
	for _, c := range []struct {
		field  string
		change func(*printing.Preparation)
	}{
		{"profile_id", func(p *printing.Preparation) { p.ProfileID = "" }},
		{"profile_id", func(p *printing.Preparation) { p.ProfileID = other.profile.ID }},
		{"bottle_id", func(p *printing.Preparation) { p.BottleID = &other.bottle.ID }},
		{"pieces", func(p *printing.Preparation) { p.Pieces = nil }},
	} {
		in := printing.Preparation{MachineID: d.machine.ID, ProfileID: d.profile.ID, BottleID: &d.bottle.ID, Pieces: []printing.Portion{{PieceID: d.piece.Piece.ID, Copies: 2}}, VatFillML: quantity.Ptr(100.0)}
		c.change(&in)
		_, err := d.w.Printing.Prepare(t.Context(), in)
		wantField(t, err, c.field)
	}
}

func TestPlatesThatDoNotHoldTogetherAreRefused(t *testing.T) {
	d := newDesk(t)
	other := d.strange()
	for _, c := range []struct {
		field  string
		change func(*planning.PlateDraft)
	}{
		{"profile_id", func(p *planning.PlateDraft) { p.Plate.ProfileID = nil }},
		{"profile_id", func(p *planning.PlateDraft) { p.Plate.ProfileID = &other.profile.ID }},
		{"bottle_id", func(p *planning.PlateDraft) { p.Plate.BottleID = &other.bottle.ID }},
		{"series_id", func(p *planning.PlateDraft) { p.Plate.SeriesID = &other.series.Series.ID }},
		{"margin_mm", func(p *planning.PlateDraft) { p.Plate.MarginMM = -1 }},
		{"liquid_ratio", func(p *planning.PlateDraft) { p.Plate.LiquidRatio = 0 }},
		{"vat_fill_ml", func(p *planning.PlateDraft) { p.Plate.VatFillML = quantity.Ptr(-1.0) }},
		{"software_estimate_s", func(p *planning.PlateDraft) { p.Plate.SoftwareEstimateS = quantity.Ptr(0.0) }},
		{"placements", func(p *planning.PlateDraft) { p.Placements = make([]bench.Placement, 501) }},
	} {
		draft := d.plateDraft()
		c.change(&draft)
		_, err := d.w.Planning.SavePlate(t.Context(), draft)
		wantField(t, err, c.field)
	}
	_, err := d.w.Planning.PackPlate(t.Context(), d.plateDraft(), &planning.Packing{PieceID: d.piece.Piece.ID, Copies: 501, ScalePct: 100})
	wantField(t, err, "more.copies")
	full := d.plateDraft()
	full.Placements = make([]bench.Placement, 500)
	_, err = d.w.Planning.PackPlate(t.Context(), full, &planning.Packing{PieceID: d.piece.Piece.ID, Copies: 1, ScalePct: 100})
	wantField(t, err, "copies")
	empty := must(d.w.Planning.SavePlate(t.Context(), d.plateDraft()))(t)
	if _, _, err := d.w.Planning.PlateMesh(t.Context(), empty.Plate.ID, "stl"); err == nil {
		t.Error("an empty plate was given as a mesh")
	}
	_, err = d.w.Printing.Prepare(t.Context(), printing.Preparation{MachineID: d.machine.ID, PlateID: &empty.Plate.ID, ProfileID: d.profile.ID})
	wantField(t, err, "plate_id")
}

// A plate that was printed stays as it was.
func TestAPrintedPlateStaysAsItWas(t *testing.T) {
	d := newDesk(t)
	plate := d.laid(2)
	run := must(d.w.Printing.DraftRun(t.Context(), d.machine.ID))(t).Run
	run.ResinID, run.BottleID, run.ProfileID, run.PlateID, run.StartedMS = d.resin.ID, &d.bottle.ID, d.profile.ID, &plate.Plate.ID, d.clock.UnixMilli()
	run.EndedMS = quantity.Ptr(run.StartedMS + 30*60*1000)
	sheet := must(d.w.Printing.RecordRun(t.Context(), printing.Recording{Run: run, Confirmed: true}))(t)
	if len(sheet.Specimens) != 2 {
		t.Errorf("%d specimens of two placements", len(sheet.Specimens))
	}
	draft := planning.PlateDraft{Plate: plate.Plate, Placements: d.placementsOf(plate)}
	draft.Plate.Name = "Changed"
	if _, err := d.w.Planning.SavePlate(t.Context(), draft); !errors.Is(err, bench.ErrConflict) {
		t.Errorf("a printed plate was changed: %v", err)
	}
	draft.Plate.ID, draft.Plate.Code, draft.Plate.Version = "", "", 0
	if copied := must(d.w.Planning.SavePlate(t.Context(), draft))(t); len(copied.Placed) != 2 || copied.Plate.ID == plate.Plate.ID {
		t.Errorf("its copy: %+v", copied.Plate)
	}
}

func TestSeriesThatCannotBeAreRefused(t *testing.T) {
	d := newDesk(t)
	good := dialin.SeriesPlan{MachineID: d.machine.ID, ResinID: d.resin.ID, LayerUM: 50, School: "detail", FromS: 1.6, StepS: 0.4, Cells: 4, BottomLayers: 4, BottomExposureS: 30}
	for field, change := range map[string]func(*dialin.SeriesPlan){
		"cells":    func(p *dialin.SeriesPlan) { p.Cells = 0 },
		"layer_um": func(p *dialin.SeriesPlan) { p.LayerUM = 0.05 },
	} {
		p := good
		change(&p)
		_, err := d.w.DialIn.PlanSeries(t.Context(), p)
		wantField(t, err, field)
	}
	sheet := must(d.w.DialIn.PlanSeries(t.Context(), good))(t)
	_, err := d.w.DialIn.Accept(t.Context(), sheet.Series.ID, 2, "none")
	wantField(t, err, "exposure_s")
	if _, err := d.w.DialIn.RecordCell(t.Context(), sheet.Series.ID, 9, bench.CellReading{Survived: quantity.Ptr(true)}, dialin.CellSizes{}); !errors.Is(err, bench.ErrNotFound) {
		t.Errorf("a cell that is not there: %v", err)
	}
	_, err = d.w.DialIn.TurnCells(t.Context(), sheet.Series.ID, sheet.Series.Version, "upside_down", "")
	wantField(t, err, "lay")
	_, err = d.w.DialIn.LaySeries(t.Context(), sheet.Series.ID, d.piece.Piece.ID)
	wantField(t, err, "piece_id")
	sealed := d.settings(func(p *bench.Profile) {
		p.Basis, p.SealedName, p.ExposureS, p.BottomExposureS = "sealed", "Grey", nil, nil
	})
	_, err = d.w.DialIn.CarryExposure(t.Context(), dialin.Carrying{ProfileID: sealed.ID, MachineID: d.machine.ID, Cells: 5})
	wantField(t, err, "profile_id")
	_, err = d.w.DialIn.CarryExposure(t.Context(), dialin.Carrying{ProfileID: d.profile.ID, MachineID: d.machine.ID, Cells: 1})
	wantField(t, err, "cells")
}

// A machine prints one thing at a time, and nothing starts before what must be answered
// is answered.
func TestAPrintMayStart(t *testing.T) {
	d := newDesk(t)
	d.withVat(60, 10)
	first, second := d.prepared(60), d.prepared(60)
	_, err := d.w.Printing.Happen(t.Context(), first.Run.ID, bench.RunEvent{Kind: "start"}, true)
	wantField(t, err, "kind")
	_, err = d.w.Printing.SkipOpen(t.Context(), first.Run.ID, "")
	wantField(t, err, "reason")
	d.happens(first, "start", nil)
	must(d.w.Printing.SkipOpen(t.Context(), second.Run.ID, "a test"))(t)
	if _, err := d.w.Printing.Happen(t.Context(), second.Run.ID, bench.RunEvent{Kind: "start"}, true); !errors.Is(err, bench.ErrConflict) {
		t.Errorf("two prints on one machine: %v", err)
	}
	d.happens(first, "pause", nil)
	if _, err := d.w.Printing.Happen(t.Context(), second.Run.ID, bench.RunEvent{Kind: "start"}, true); !errors.Is(err, bench.ErrConflict) {
		t.Errorf("while the other is paused: %v", err)
	}
	_, err = d.w.Printing.Happen(t.Context(), first.Run.ID, bench.RunEvent{Kind: "note", Note: "early", AtMS: d.clock.Add(-time.Hour).UnixMilli()}, true)
	wantField(t, err, "at_ms")
	d.clock = d.clock.Add(time.Hour)
	d.happens(first, "stop", nil)
	if live := must(d.w.Printing.Happen(t.Context(), second.Run.ID, bench.RunEvent{Kind: "start"}, true))(t); live.State != bench.Printing {
		t.Errorf("after the first ended the second is %s", live.State)
	}
	recorded := d.run(nil)
	_, err = d.w.Printing.Happen(t.Context(), recorded.Run.ID, bench.RunEvent{Kind: "pause"}, true)
	wantField(t, err, "kind")
}

func wantField(t *testing.T, err error, path string) {
	t.Helper()
	var field *quantity.FieldError
	if !errors.As(err, &field) || field.Path != path {
		t.Errorf("error %v, want one of field %s", err, path)
	}
}
