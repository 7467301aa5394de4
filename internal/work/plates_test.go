package work_test

import (
	"context"
	"errors"
	"math"
	"strings"
	"testing"
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/coupon"
	"ojime/internal/core/mesh"
	"ojime/internal/core/quantity"
	"ojime/internal/work/compare"
	"ojime/internal/work/dialin"
	"ojime/internal/work/kit"
	"ojime/internal/work/planning"
	"ojime/internal/work/printing"
)

// plateDraft is an empty plate of the desk's machine and profile.
func (d *desk) plateDraft() planning.PlateDraft {
	return planning.PlateDraft{Plate: bench.Plate{Name: "Wedges", MachineID: d.machine.ID, ProfileID: &d.profile.ID, BottleID: &d.bottle.ID,
		MarginMM: 2, SpacingMM: 2, DripML: 3, LiquidRatio: 1.05, Software: "Carver"}}
}

// laid packs copies of the desk's piece on a plate and saves it.
func (d *desk) laid(copies int64) planning.PlateSheet {
	d.t.Helper()
	draft := d.plateDraft()
	packed := must(d.w.Planning.PackPlate(d.t.Context(), draft, &planning.Packing{PieceID: d.piece.Piece.ID, Copies: copies, ScalePct: 100}))(d.t)
	draft.Placements = packed.Placements
	return must(d.w.Planning.SavePlate(d.t.Context(), draft))(d.t)
}

// withVat gives the desk's machine a vat, wear and a claim.
func (d *desk) withVat(maxML, deadML float64) {
	d.t.Helper()
	m := d.machine
	m.VatMaxML, m.VatDeadML = &maxML, &deadML
	m.FilmLifeLayers, m.FilmPrice, m.LightLifeH, m.LightPrice = quantity.Ptr(50000.0), quantity.Ptr(12.0), quantity.Ptr(1000.0), quantity.Ptr(90.0)
	m.ClaimedMMH = quantity.Ptr(100.0)
	d.machine = must(d.w.Kit.SaveMachine(d.t.Context(), m))(d.t).Machine
}

func TestAPlateIsWorkedOut(t *testing.T) {
	d := newDesk(t)
	d.withVat(40, 10)
	s := d.laid(6)
	if len(s.Placed) != 6 || len(s.Troubles) != 0 || s.Fits[0].Copies != 6 || s.Fits[0].Capacity < 6 {
		t.Fatalf("%d laid, troubles %v, fits %+v", len(s.Placed), s.Troubles, s.Fits)
	}
	e := s.Time.Estimate
	if e.Model != "timing/masked" || e.Layers != 100 || s.Time.BestFrom != "model" || *s.Time.BestS != *e.TotalS {
		t.Errorf("time %+v", s.Time)
	}
	// 6 × 1.5 ml and a tenth for supports, thickened, and what drips.
	solid := 6 * 1.5 * 1.1
	if b := s.Resins.Budget; math.Abs(s.Resins.SolidML-solid) > 1e-3 || math.Abs(b.NeededML-(solid*1.05+3)) > 0.01 || b.RunsDry {
		t.Errorf("resin %+v, %+v", s.Resins, s.Resins.Budget)
	}
	if math.Abs(*s.Resins.BottleLeftML-(1000-s.Resins.Budget.NeededML)) > 1e-9 {
		t.Errorf("bottle %v", *s.Resins.BottleLeftML)
	}
	if len(s.Wear) != 2 || s.Wear[0].Name != "Panel" || s.Wear[1].Result.UsePerPrint != 100 || !s.Wear[0].LightKnown {
		t.Errorf("wear %+v", s.Wear)
	}
	if s.Headline == nil || math.Abs(s.Headline.ImpliedLayerS-1.8) > 1e-9 || !s.Headline.Has("cannot_be") {
		t.Errorf("headline %+v", s.Headline)
	}
	if s.Cost == nil || s.Cost.PerGoodPiece != nil || !s.Cost.Has("no_trials") || s.Week.Copies != 6*s.Week.Plates {
		t.Errorf("cost %+v, week %+v", s.Cost, s.Week)
	}
}

func TestTheVatIsSaidToRunDry(t *testing.T) {
	d := newDesk(t)
	d.withVat(40, 10)
	draft := d.plateDraft()
	draft.Plate.VatFillML = quantity.Ptr(15.0)
	draft.Placements = d.placementsOf(d.laid(6))
	s := must(d.w.Planning.SavePlate(t.Context(), draft))(t)
	b := s.Resins.Budget
	// A wedge holds more at its foot: 5 ml of liquid are used up before half way.
	if !b.RunsDry || *b.DryLayer < 20 || *b.DryLayer > 50 || math.Abs(b.ShortML-(9.9*1.05-5)) > 0.01 || b.Refills != 1 {
		t.Errorf("%+v, dry in layer %v", b, *b.DryLayer)
	}
}

func (d *desk) placementsOf(s planning.PlateSheet) (out []bench.Placement) {
	for _, l := range s.Placed {
		out = append(out, l.Placement)
	}
	return out
}

func TestWhatDoesNotFitIsSaid(t *testing.T) {
	d := newDesk(t)
	packed := must(d.w.Planning.PackPlate(t.Context(), d.plateDraft(), &planning.Packing{PieceID: d.piece.Piece.ID, Copies: 40, ScalePct: 100}))(t)
	if packed.Left == 0 || packed.Asked != 40 || int(packed.Left)+len(packed.Placements) != 40 || !strings.Contains(packed.Message, "of 40") {
		t.Errorf("%+v", packed)
	}
	draft := d.plateDraft()
	draft.Placements = []bench.Placement{{PieceID: d.piece.Piece.ID, ScalePct: 100, XMM: 0, YMM: 40}, {PieceID: d.piece.Piece.ID, ScalePct: 100, XMM: 20, YMM: 40}}
	s := must(d.w.Planning.SavePlate(t.Context(), draft))(t)
	if len(s.Troubles) != 2 || s.Troubles[0].Code != "off_plate" || s.Troubles[1].Code != "too_near" {
		t.Errorf("%+v", s.Troubles)
	}
}

// A run from a plate takes its copies and places; the plate is then kept as it
// was, and both estimates are put right by what runs took.
func TestAPrintedPlateStaysAndTeaches(t *testing.T) {
	d := newDesk(t)
	d.withVat(200, 10)
	plate := d.laid(4)
	for i := range 3 {
		started := d.clock.Add(time.Duration(i-3) * 24 * time.Hour)
		ended := started.Add(time.Duration(1.2 * *plate.Time.Estimate.TotalS * float64(time.Second))).UnixMilli()
		sheet := must(d.w.Printing.RecordRun(t.Context(), printing.Recording{Run: bench.Run{MachineID: d.machine.ID, ResinID: d.resin.ID, ProfileID: d.profile.ID, BottleID: &d.bottle.ID,
			PlateID: &plate.Plate.ID, StartedMS: started.UnixMilli(), EndedMS: &ended,
			Software: quantity.Ptr("Carver"), SoftwareEstimateS: quantity.Ptr(*plate.Time.Estimate.TotalS / 2), ResinUsedG: quantity.Ptr(11.0)}}))(t)
		if len(sheet.Specimens) != 4 || *sheet.Specimens[2].XMM != plate.Placed[2].Placement.XMM || sheet.Run.Copies != 4 {
			t.Fatalf("%+v", sheet.Specimens)
		}
		place := must(d.w.Kit.SpecimenPlace(t.Context(), sheet.Specimens[1].Code))(t)
		if place.Specimen.ID != sheet.Specimens[1].ID || place.Run != sheet.Run.Code {
			t.Errorf("%+v", place)
		}
	}
	draft := planning.PlateDraft{Plate: plate.Plate}
	if _, err := d.w.Planning.SavePlate(t.Context(), draft); !errors.Is(err, bench.ErrConflict) {
		t.Errorf("a printed plate was changed: %v", err)
	}
	draft.Plate.ID, draft.Plate.SoftwareEstimateS, draft.Placements = "", quantity.Ptr(100.0), d.placementsOf(plate)
	again := must(d.w.Planning.SavePlate(t.Context(), draft))(t)
	if math.Abs(*again.Time.Ours.Factor-1.2) > 1e-3 || again.Time.OursN != 3 || again.Time.BestFrom != "ours" || again.Time.BestPI == nil {
		t.Errorf("ours %+v", again.Time)
	}
	if math.Abs(*again.Time.Software.CorrectedS-240) > 1 || again.Time.SoftwareN != 3 {
		t.Errorf("software %+v", again.Time.Software)
	}
	if math.Abs(*again.Resins.BottleML-970) > 1e-6 {
		t.Errorf("bottle %v ml after three times 11 g at 1.1 g/ml", *again.Resins.BottleML)
	}
}

func TestSealedTimeIsLearnedFromRuns(t *testing.T) {
	d := newDesk(t)
	d.withVat(200, 10)
	sealed := must(d.w.Kit.AddProfile(t.Context(), bench.Profile{MachineID: d.machine.ID, ResinID: d.resin.ID, LayerUM: 50, Basis: "sealed", SealedName: "House"}))(t)
	draft := d.plateDraft()
	draft.Plate.ProfileID = &sealed.ID
	draft.Placements = d.placementsOf(d.laid(2))
	before := must(d.w.Planning.SavePlate(t.Context(), draft))(t)
	if before.Time.BestS != nil || before.Time.Estimate.Reason == "" || before.Week != nil || before.CostReason == "" {
		t.Errorf("before any run: %+v", before.Time)
	}
	for i := range 3 {
		started := d.clock.Add(time.Duration(i-3) * 24 * time.Hour).UnixMilli()
		ended := started + 1_100_000
		must(d.w.Printing.RecordRun(t.Context(), d.recording(bench.Run{MachineID: d.machine.ID, ResinID: d.resin.ID, ProfileID: sealed.ID, StartedMS: started, EndedMS: &ended}, 2)))(t)
	}
	after := must(d.w.Planning.PlateSheet(t.Context(), before.Plate.ID))(t)
	if e := after.Time.Estimate; e.Model != "learned" || math.Abs(*e.TotalS-1100) > 1e-6 || e.LightOnS != nil || after.Time.Ours != nil {
		t.Errorf("after three runs: %+v", after.Time.Estimate)
	}
	if len(after.Wear) != 1 || after.Wear[0].Name != "Film" || after.Wear[0].LightKnown || after.WearReason == "" {
		t.Errorf("wear %+v, %q", after.Wear, after.WearReason)
	}
}

func TestCellsLieNumberedInOrder(t *testing.T) {
	d := newDesk(t)
	made := must(d.w.DialIn.KeepCoupon(t.Context(), "Small", coupon.Params{PostsMM: []float64{0.2, 0.3, 0.5}, SlotsMM: []float64{0.1, 0.2}, Calipers: true}))(t)
	if len(made.Features) != 7 || made.Features[0].Shape != "post" || made.Piece.Coupon.Params == nil {
		t.Fatalf("%+v", made.Features)
	}
	plan := dialin.SeriesPlan{MachineID: d.machine.ID, ResinID: d.resin.ID, LayerUM: 50, School: "detail", FromS: 1, StepS: 0.5, Cells: 4, BottomLayers: 4, BottomExposureS: 30}
	alike := must(d.w.DialIn.PlanSeries(t.Context(), plan))(t)
	if plates := must(d.w.DialIn.LaySeries(t.Context(), alike.Series.ID, made.Piece.ID))(t); len(plates) != 4 || *plates[2].Placed[0].Placement.Number != 3 {
		t.Fatalf("%d plates on a machine that exposes a plate alike", len(plates))
	}
	sheet := must(d.w.DialIn.SeriesSheet(t.Context(), alike.Series.ID))(t)
	if sheet.Plan.OnePlateS != nil || sheet.Plan.Reason == "" || len(sheet.Plates) != 4 {
		t.Errorf("%+v", sheet.Plan)
	}
	for mode, one := range map[string]float64{"together": 2.5, "in_turn": 7} {
		m := d.machine
		m.CellExposure = mode
		d.machine = must(d.w.Kit.SaveMachine(t.Context(), m))(t).Machine
		series := must(d.w.DialIn.PlanSeries(t.Context(), plan))(t)
		plates := must(d.w.DialIn.LaySeries(t.Context(), series.Series.ID, made.Piece.ID))(t)
		if len(plates) != 1 || len(plates[0].Placed) != 4 || len(plates[0].Troubles) != 0 {
			t.Fatalf("%s: %d plates", mode, len(plates))
		}
		for i, l := range plates[0].Placed {
			if *l.Placement.Number != int64(i+1) || *l.Placement.ExposureS != 1+0.5*float64(i) {
				t.Errorf("place %d: %+v", i, l.Placement)
			}
		}
		c := plates[0].Cells
		// Layers beyond bottom differ from a plate of one cell by the exposure alone.
		layers := float64(plates[0].Time.Estimate.Layers - 4)
		bottom := map[string]float64{"together": 0, "in_turn": 4 * 90}[mode]
		single := (c.EachS - layers*(1+1.5+2+2.5)) / 4
		if c.OnePlateS == nil || math.Abs(*c.OnePlateS-(single+layers*one+bottom)) > 1e-6 {
			t.Errorf("%s: one plate %v s, each %v s", mode, *c.OnePlateS, c.EachS)
		}
		name, data, err := d.w.Planning.PlateMesh(t.Context(), plates[0].Plate.ID, "3mf")
		if err != nil || !strings.HasSuffix(name, ".3mf") {
			t.Fatal(name, err)
		}
		m3, err := mesh.Read(data)
		if err != nil {
			t.Fatal(err)
		}
		f := mesh.Measure(m3)
		if f.OpenEdges != 0 || f.BoundsMM.Min[0] < 1.9 || f.BoundsMM.Max[0] > d.machine.WidthMM-1.9 || math.Abs(f.BoundsMM.Min[2]) > 1e-6 {
			t.Errorf("%s: %+v", mode, f.BoundsMM)
		}
	}
}

func TestCellSizesBecomeErrors(t *testing.T) {
	d := newDesk(t)
	made := must(d.w.DialIn.KeepCoupon(t.Context(), "Small", coupon.Params{PostsMM: []float64{0.2, 0.3}, Calipers: true}))(t)
	series := must(d.w.DialIn.PlanSeries(t.Context(), dialin.SeriesPlan{MachineID: d.machine.ID, ResinID: d.resin.ID, LayerUM: 50, School: "fit", FromS: 1, StepS: 0.5, Cells: 3, BottomLayers: 4, BottomExposureS: 30}))(t)
	p := quantity.Ptr[float64]
	if _, err := d.w.DialIn.RecordCell(t.Context(), series.Series.ID, 1, bench.CellReading{}, dialin.CellSizes{OuterMM: p(12)}); err == nil || !strings.HasPrefix(err.Error(), "outer_mm") {
		t.Errorf("a size without a nominal: %v", err)
	}
	must(d.w.DialIn.LaySeries(t.Context(), series.Series.ID, made.Piece.ID))(t)
	sheet := must(d.w.DialIn.RecordCell(t.Context(), series.Series.ID, 1, bench.CellReading{}, dialin.CellSizes{OuterMM: p(12.03), InnerMM: p(5.98)}))(t)
	r := sheet.Cells[0].Reading
	if math.Abs(*r.OuterErrorMM-0.03) > 1e-9 || math.Abs(*r.InnerErrorMM+0.02) > 1e-9 || math.Abs(*sheet.Cells[0].OuterMM-12.03) > 1e-9 {
		t.Errorf("%+v", r)
	}
	if _, err := d.w.DialIn.RecordCell(t.Context(), series.Series.ID, 1, bench.CellReading{}, dialin.CellSizes{OuterMM: p(1.2)}); err == nil {
		t.Error("a slip of the point was kept")
	}
}

func TestFillCrosses(t *testing.T) {
	d := newDesk(t)
	p := quantity.Ptr[float64]
	laser := must(d.w.Kit.SaveMachine(t.Context(), bench.Machine{Name: "Trace", LightEngine: bench.Laser, WidthMM: 150, DepthMM: 150, HeightMM: 150, DialStepS: 0.1,
		SpotUM: p(80), HatchMM: p(0.08), HatchMMS: p(1500), ContourPasses: quantity.Ptr[int64](1), ContourMMS: p(500), SettleS: p(3)}))(t).Machine
	traced := must(d.w.Kit.AddProfile(t.Context(), bench.Profile{MachineID: laser.ID, ResinID: d.resin.ID, LayerUM: 50, ExposureS: p(1), BottomExposureS: p(1), Basis: "default"}))(t)
	plot := must(d.w.Planning.Fill(t.Context(), d.piece.Piece.ID, 100, []string{d.profile.ID, traced.ID}, 12))(t)
	if len(plot.Sides) != 2 || len(plot.Sides[0].PerPieceS) != 12 || len(plot.Pairs) != 1 {
		t.Fatalf("%+v", plot)
	}
	masked, trace := plot.Sides[0].Load, plot.Sides[1].Load
	// A wedge of 1.5 ml: hatching 1650 mm³ of 0.05 × 0.08 × 1500 mm³/s, supports in it.
	hatch := 1650 / (0.05 * 0.08 * 1500)
	if masked.PerCopyS != 0 || trace.PerCopyS < hatch || trace.PerCopyS > hatch+60 || math.Abs(trace.FixedS-300) > 1e-6 {
		t.Errorf("masked %+v, laser %+v (hatching a copy: %v s)", masked, trace, hatch)
	}
	r := plot.Pairs[0].Result
	if r.Crossover == nil || r.RatioOne <= 1 || !strings.Contains(plot.Pairs[0].Words, "other way round") {
		t.Errorf("%+v: %s", r, plot.Pairs[0].Words)
	}
}

// What prints took puts the whole line right, and equal fill is the most that all hold.
func TestFillKnowsWhatPrintsTook(t *testing.T) {
	d := newDesk(t)
	small := d.machine
	small.ID, small.Code, small.Version, small.Name, small.WidthMM, small.DepthMM = "", "", 0, "Small", 76, 44
	small.PxX, small.PxY = quantity.Ptr[int64](1900), quantity.Ptr[int64](1100)
	other := must(d.w.Kit.SaveMachine(t.Context(), small))(t).Machine
	settings := d.profile
	settings.ID, settings.Code, settings.Version, settings.MachineID = "", "", 0, other.ID
	onSmall := must(d.w.Kit.AddProfile(t.Context(), settings))(t)
	ask := func() planning.FillPlot {
		return must(d.w.Planning.Fill(t.Context(), d.piece.Piece.ID, 100, []string{d.profile.ID, onSmall.ID}, 6))(t)
	}
	before := ask()
	if before.Sides[0].Factor != nil || before.Sides[0].Load.Capacity <= before.Sides[1].Load.Capacity || before.Equal != before.Sides[1].Load.Capacity {
		t.Errorf("%+v", before)
	}
	for range 2 {
		d.run(nil)
		d.clock = d.clock.Add(2 * time.Hour)
	}
	if both := ask(); both.Sides[0].Factor != nil || both.Sides[1].Factor != nil {
		t.Errorf("one is corrected, and the other has no print: %+v", both)
	}
	after := must(d.w.Planning.Fill(t.Context(), d.piece.Piece.ID, 100, []string{d.profile.ID}, 6))(t)
	first := after.Sides[0]
	// A wedge takes as long as three on a masked machine: both prints took half an hour.
	if first.Factor == nil || math.Abs(first.OneS-1800) > 1e-6 || math.Abs(*first.Factor-1800/before.Sides[0].OneS) > 1e-9 || first.FactorN != 2 || first.FactorFrom != "with these settings" {
		t.Errorf("%+v", first)
	}
	if math.Abs(first.EqualS-1800/float64(after.Equal)) > 1e-6 || math.Abs(first.PerPieceS[1]-900) > 1e-6 {
		t.Errorf("%+v", after)
	}
}

func TestVisibleDetailAndPrediction(t *testing.T) {
	d := newDesk(t)
	ask := kit.VisibleDetailRequest{PieceID: d.piece.Piece.ID, LayerUM: 50, ScalePct: 50, TiltDeg: 30, TipFromMM: 0.3, TipToMM: 0.4}
	unknown := must(d.w.Kit.VisibleDetail(t.Context(), ask))(t)
	if unknown.FinestMM != nil || unknown.Machines[0].Scale != nil {
		t.Errorf("the finest feature of a wedge is not known: %+v", unknown)
	}
	must(d.w.Kit.SaveAllowances(t.Context(), d.piece.Piece.ID, kit.Allowances{Version: d.piece.Piece.Version, FinestMM: quantity.Ptr(0.15), HollowWallMM: quantity.Ptr(0.8)}, nil))(t)
	o := must(d.w.Kit.VisibleDetail(t.Context(), ask))(t)
	if s := o.Machines[0].Scale; s == nil || math.Abs(s.FeatureUM-75) > 1e-9 || !s.Has("below_two_pixels") || o.FinestIs != "stated" {
		t.Errorf("%+v", o.Machines[0].Scale)
	}
	wall := must(d.w.Kit.Predict(t.Context(), kit.PredictAsk{MachineID: d.machine.ID, Shape: "slots", SizesMM: []float64{0.1, 0.3}, GreyLevels: 4, SpreadUM: 10, Threshold: 0.5}))(t)
	if len(wall.Rungs) != 2 || len(wall.Picture) == 0 || wall.Prediction.OffsetUM == nil || len(wall.Prediction.Assumptions) < 3 {
		t.Errorf("%+v", wall.Prediction)
	}
	slice := must(d.w.Kit.Predict(t.Context(), kit.PredictAsk{MachineID: d.machine.ID, Shape: "slice", PieceID: d.piece.Piece.ID, LayerUM: 50, Layer: 20, ScalePct: 100, GreyLevels: 2, Threshold: 0.5,
		ViewXMM: quantity.Ptr(0.0), ViewYMM: quantity.Ptr(10.0)}))(t)
	// The edge along x = 0 lies on the grid: it comes true.
	if slice.Prediction.OffsetUM == nil || math.Abs(*slice.Prediction.OffsetUM) > 1 {
		t.Errorf("%+v", slice.Prediction)
	}
}

func TestHollowingSavesResin(t *testing.T) {
	d := newDesk(t)
	full := must(d.w.Planning.SavePlate(t.Context(), planning.PlateDraft{Plate: d.plateDraft().Plate, Placements: []bench.Placement{{PieceID: d.piece.Piece.ID, ScalePct: 100, XMM: 50, YMM: 50}}}))(t)
	card := must(d.w.Kit.SaveAllowances(t.Context(), d.piece.Piece.ID, kit.Allowances{Version: d.piece.Piece.Version, HollowWallMM: quantity.Ptr(0.5), SupportML: 0.2, RaftML: 0.1}, nil))(t)
	hollow := must(d.w.Planning.PlateSheet(t.Context(), full.Plate.ID))(t)
	want := 1.5 - card.Piece.HollowML + 0.3
	if card.Piece.HollowML <= 0.5 || math.Abs(hollow.Resins.SolidML-want) > 1e-3 {
		t.Errorf("%v ml left out, %v ml solid, want %v", card.Piece.HollowML, hollow.Resins.SolidML, want)
	}
	_, err := d.w.Kit.SaveAllowances(t.Context(), d.piece.Piece.ID, kit.Allowances{Version: 1}, nil)
	if !errors.Is(err, bench.ErrStale) {
		t.Errorf("a stale change was kept: %v", err)
	}
}

// A plate of two pieces is one run; each specimen is read by its own piece, and
// a comparison says that the pieces differ.
func TestAMixedPlateKeepsItsPiecesApart(t *testing.T) {
	d := newDesk(t)
	other := must(d.w.DialIn.KeepCoupon(t.Context(), "Small", coupon.Params{Calipers: true}))(t)
	draft := d.plateDraft()
	draft.Placements = []bench.Placement{{PieceID: d.piece.Piece.ID, ScalePct: 100, XMM: 30, YMM: 30}, {PieceID: other.Piece.ID, ScalePct: 100, XMM: 90, YMM: 40}}
	plate := must(d.w.Planning.SavePlate(t.Context(), draft))(t)
	run := bench.Run{MachineID: d.machine.ID, ResinID: d.resin.ID, ProfileID: d.profile.ID, PlateID: &plate.Plate.ID, StartedMS: d.clock.UnixMilli()}
	sheet := must(d.w.Printing.RecordRun(t.Context(), printing.Recording{Run: run}))(t)
	if sheet.Printed != "1 × Wedge, 1 × Small" || len(sheet.Pieces) != 2 || len(sheet.Features) != len(d.piece.Features)+len(other.Features) || len(sheet.Specimens) != 2 {
		t.Fatalf("%d pieces, %d features", len(sheet.Pieces), len(sheet.Features))
	}
	length := other.Features[0]
	reading := bench.Reading{FeatureID: length.ID, InstrumentID: &d.tool.ID, ValueMM: quantity.Ptr(12.01)}
	reading.SpecimenID = sheet.Specimens[0].ID
	if _, err := d.w.Inspect.RecordReadings(t.Context(), sheet.Run.ID, []bench.Reading{reading}, false); err == nil || !strings.Contains(err.Error(), "another piece") {
		t.Errorf("a size of another piece was kept: %v", err)
	}
	reading.SpecimenID = sheet.Specimens[1].ID
	after := must(d.w.Inspect.RecordReadings(t.Context(), sheet.Run.ID, []bench.Reading{reading}, false))(t)
	if after.Dimensions == nil || len(after.Dimensions.Features) != 1 {
		t.Errorf("%+v", after.Dimensions)
	}
	run.PlateID, run.StartedMS = nil, run.StartedMS+1
	alone := must(d.w.Printing.RecordRun(t.Context(), d.recording(run, 1)))(t)
	c := must(d.w.Reviews.Compare(t.Context(), compare.ComparisonRequest{Sides: [][]string{{sheet.Run.ID}, {alone.Run.ID}}, Question: "failure"}))(t)
	if c.Sides[0].Piece != "Wedge / Small" || c.Audits[0].Result.Grade == "fair" {
		t.Errorf("%s against %s is %s", c.Sides[0].Piece, c.Sides[1].Piece, c.Audits[0].Result.Grade)
	}
	// Of one piece alone, the copies of that piece count, and its share of the plate.
	one := must(d.w.Reviews.Compare(t.Context(), compare.ComparisonRequest{Sides: [][]string{{sheet.Run.ID}, {alone.Run.ID}}, Question: "failure", PieceID: d.piece.Piece.ID}))(t)
	if one.Sides[0].Piece != "Wedge" || one.Sides[0].Outcomes.Specimens != 1 || !one.Sides[0].Shared || one.Sides[1].Shared {
		t.Errorf("%+v", one.Sides[0])
	}
	lines := must(d.w.Printing.Runs(t.Context(), printing.RunFilter{PieceID: other.Piece.ID}))(t).Lines
	if len(lines) != 1 || lines[0].Printed != "1 × Wedge, 1 × Small" {
		t.Errorf("%+v", lines)
	}
}

// Who leaves a page does not keep the machine busy with its slices.
func TestCuttingStopsWhenTheAskerHasGone(t *testing.T) {
	d := newDesk(t)
	gone, leave := context.WithCancel(t.Context())
	leave()
	if _, err := d.w.Kit.Slices(gone, d.piece.Piece, 1, 1); !errors.Is(err, mesh.ErrStopped) {
		t.Errorf("error %v, want ErrStopped", err)
	}
	if layers := must(d.w.Kit.Slices(t.Context(), d.piece.Piece, 1, 1))(t); len(layers) != 5000 {
		t.Errorf("%d layers", len(layers))
	}
}
