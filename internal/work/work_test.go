package work_test

import (
	"crypto/rand"
	"encoding/json"
	"errors"
	"fmt"
	"reflect"
	"strings"
	"testing"
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/contest"
	"ojime/internal/core/mesh"
	"ojime/internal/core/quantity"
	"ojime/internal/store/storetest"
	"ojime/internal/work"
	"ojime/internal/work/compare"
	"ojime/internal/work/kit"
	"ojime/internal/work/printing"
)

// desk is a record with one machine, resin, bottle, caliper, piece and profile.
type desk struct {
	t       testing.TB
	w       *work.Work
	clock   time.Time
	machine bench.Machine
	resin   bench.Resin
	bottle  bench.Bottle
	tool    bench.Instrument
	piece   kit.PieceCard
	profile bench.Profile
}

func must[T any](v T, err error) func(testing.TB) T {
	return func(t testing.TB) T {
		t.Helper()
		if err != nil {
			t.Fatal(err)
		}
		return v
	}
}

func newDesk(t testing.TB) *desk {
	t.Helper()
	s := storetest.Open(t)
	d := &desk{t: t, clock: time.Date(2026, 9, 1, 9, 0, 0, 0, time.UTC)}
	d.w = work.New(s, func() time.Time { return d.clock }, rand.Reader)
	ctx, p := t.Context(), quantity.Ptr[float64]
	moves := bench.Moves{{MM: 6, MMMin: 60}}
	d.machine = must(d.w.Kit.SaveMachine(ctx, bench.Machine{Name: "Ossik 7", LightEngine: "masked_lcd", WidthMM: 160, DepthMM: 90, HeightMM: 160,
		PxX: quantity.Ptr[int64](4000), PxY: quantity.Ptr[int64](2250), DialStepS: 0.1, Lift: moves, Retract: moves, PowerW: 50}))(t).Machine
	d.resin = must(d.w.Kit.SaveResin(ctx, bench.Resin{Name: "Plain Grey", BottleML: p(1000), DensityGML: p(1.1), PriceList: 30, PriceTaxIncluded: true}))(t).Resin
	opened, expires := "2026-08-01", "2026-09-10"
	d.bottle = must(d.w.Kit.SaveBottle(ctx, bench.Bottle{ResinID: d.resin.ID, OpenedOn: &opened, ExpiresOn: &expires}))(t)
	d.tool = must(d.w.Instruments.SaveInstrument(ctx, bench.Instrument{Name: "Caliper", ResolutionMM: 0.01, ReferenceUMM: 0.01}))(t)
	d.piece = must(d.w.Kit.ImportPiece(ctx, kit.NewPiece{Name: "Wedge", Revision: "1", FileName: "wedge.stl", SupportPct: 10, File: kit.MeshBytes(mesh.WriteSTL(wedge()))}, nil))(t)
	x, outer := "x", "outer"
	d.piece = must(d.w.Kit.SaveFeatures(ctx, d.piece.Piece.ID, d.piece.FeaturesVersion, []bench.Feature{
		{Kind: "dimension", Name: "Length", NominalMM: p(30), Axis: &x, Face: &outer},
		{Kind: "pins", Name: "Pins", RungsMM: bench.Sizes{0.2, 0.3, 0.4}},
		{Kind: "checkpoint", Name: "Edge"},
	}))(t)
	d.profile = must(d.w.Kit.AddProfile(ctx, bench.Profile{MachineID: d.machine.ID, ResinID: d.resin.ID, LayerUM: 50, ExposureS: p(2), BottomLayers: quantity.Ptr[int64](4),
		BottomExposureS: p(30), Basis: "default"}))(t)
	return d
}

// wedge is a closed solid 30 by 20 by 5 mm: half a box, 1.5 ml.
func wedge() []mesh.Triangle {
	a, b, c := [3]float32{0, 0, 0}, [3]float32{30, 0, 0}, [3]float32{0, 0, 5}
	e, f, g := [3]float32{0, 20, 0}, [3]float32{30, 20, 0}, [3]float32{0, 20, 5}
	return []mesh.Triangle{{a, b, c}, {e, g, f}, {a, e, f}, {a, f, b}, {a, c, g}, {a, g, e}, {b, f, g}, {b, g, c}}
}

func (d *desk) run(change func(*bench.Run)) printing.RunSheet {
	d.t.Helper()
	return d.runOf(3, change)
}

// runOf records a print of so many wedges.
func (d *desk) runOf(copies int64, change func(*bench.Run)) printing.RunSheet {
	d.t.Helper()
	r := must(d.w.Printing.DraftRun(d.t.Context(), d.machine.ID))(d.t).Run
	r.ResinID, r.BottleID, r.ProfileID = d.resin.ID, &d.bottle.ID, d.profile.ID
	r.StartedMS = d.clock.UnixMilli()
	r.EndedMS = quantity.Ptr(r.StartedMS + 30*60*1000)
	if change != nil {
		change(&r)
	}
	return must(d.w.Printing.RecordRun(d.t.Context(), d.recording(r, copies)))(d.t)
}

// recording is a run of wedges as it is put on record, its times believed.
func (d *desk) recording(r bench.Run, copies int64) printing.Recording {
	return printing.Recording{Run: r, Pieces: []printing.Portion{{PieceID: d.piece.Piece.ID, Copies: copies}}, Confirmed: true}
}

// amend changes what a JSON object names of a print.
func (d *desk) amend(run bench.Run, change string) printing.RunSheet {
	d.t.Helper()
	return must(d.w.Printing.AmendRun(d.t.Context(), run.ID, run.Version, json.RawMessage(change), "", true))(d.t)
}

// ruin gives a specimen an outcome with one defect.
func ruin(s *bench.Specimen, outcome, symptom, origin, fault string) {
	s.Outcome, s.Defects = outcome, []bench.Defect{{Symptom: symptom, Origin: origin, Fault: fault}}
}

func TestAPieceIsMeasuredWhenItIsImported(t *testing.T) {
	p := newDesk(t).piece.Piece
	if p.SizeXMM != 30 || p.SizeZMM != 5 || p.OpenEdges != 0 || !quantity.Equal(p.VolumeML, 1.5) {
		t.Errorf("got %+v", p)
	}
}

func TestARunGetsSpecimensAndOurEstimate(t *testing.T) {
	d := newDesk(t)
	sheet := d.run(nil)
	if len(sheet.Specimens) != 3 || sheet.Specimens[2].Code != "S-001-03" || sheet.Run.Layers != 100 {
		t.Fatalf("%d specimens, %d layers: %+v", len(sheet.Specimens), sheet.Run.Layers, sheet.Specimens)
	}
	// 100 layers, of which 4 at 30 s: 4·30 + 96·2 of light, and 12 s of moves each.
	if want := 4*30 + 96*2 + 100*12.0; !quantity.Equal(*sheet.Run.OurEstimateS, want) {
		t.Errorf("estimate %v s, want %v s", *sheet.Run.OurEstimateS, want)
	}
}

func TestARunHoldsTogether(t *testing.T) {
	d := newDesk(t)
	other := must(d.w.Kit.SaveResin(t.Context(), bench.Resin{Name: "Other", BottleML: quantity.Ptr(500.0), PriceList: 9, PriceTaxIncluded: true}))(t).Resin
	sheet := d.run(nil)
	r := sheet.Run
	r.ID, r.ResinID = "", other.ID
	_, err := d.w.Printing.RecordRun(t.Context(), d.recording(r, 3))
	wantField(t, err, "profile_id")
	_, err = d.w.Printing.AmendRun(t.Context(), sheet.Run.ID, sheet.Run.Version, json.RawMessage(`{"copies": 5}`), "", true)
	wantField(t, err, "copies")
	_, err = d.w.Printing.AmendRun(t.Context(), sheet.Run.ID, sheet.Run.Version, json.RawMessage(fmt.Sprintf(`{"ended_ms": %d}`, sheet.Run.StartedMS)), "", true)
	wantField(t, err, "ended_ms")
	r = sheet.Run
	r.ID = ""
	_, err = d.w.Printing.RecordRun(t.Context(), printing.Recording{Run: r})
	wantField(t, err, "pieces")
}

// The condition of a machine is computed from its knots and prints at the start of each
// print, whenever it is entered.
func TestConditionsAreThoseOfThePrintsOwnDate(t *testing.T) {
	d := newDesk(t)
	begin := d.clock
	knot := func(at time.Time, e bench.MachineEvent) bench.MachineEvent {
		t.Helper()
		e.MachineID, e.AtMS = d.machine.ID, at.UnixMilli()
		return must(d.w.Kit.AddEvent(t.Context(), e))(t)
	}
	d.clock = begin.Add(60 * 24 * time.Hour)
	film := knot(begin.Add(time.Hour), bench.MachineEvent{Kinds: bench.IDs{"film"}})
	knot(begin.Add(2*time.Hour), bench.MachineEvent{Kinds: bench.IDs{"relevel"}})
	at := func(days int) func(*bench.Run) {
		return func(r *bench.Run) {
			r.StartedMS = begin.Add(time.Duration(days) * 24 * time.Hour).UnixMilli()
			r.EndedMS = quantity.Ptr(r.StartedMS + 30*60*1000)
		}
	}
	late := d.run(at(10))
	early := d.run(at(5)) // entered after, printed before
	layers := func(id string) float64 {
		t.Helper()
		return quantity.Or(must(d.w.Printing.RunSheet(t.Context(), id))(t).Condition.Film.Amount, -1)
	}
	if a, b := layers(early.Run.ID), layers(late.Run.ID); a != 0 || b != 100 {
		t.Errorf("%v layers at the early one, %v at the late one", a, b)
	}
	if c := must(d.w.Printing.RunSheet(t.Context(), late.Run.ID))(t).Condition; *c.Level.Days != 9 || *c.Level.Moved {
		t.Errorf("%+v", c.Level)
	}
	next := must(d.w.Printing.DraftRun(t.Context(), d.machine.ID))(t)
	if next.CarriedFrom != late.Run.Code || *next.Condition.Film.Amount != 200 || len(next.Pieces) != 1 || next.Pieces[0].Copies != 3 {
		t.Errorf("%+v", next)
	}
	// One page, one figure: what is due, the plate and the print agree.
	wears := 0.0
	m := d.machine
	m.FilmLifeLayers = quantity.Ptr(1000.0)
	must(d.w.Kit.SaveMachine(t.Context(), m))(t)
	for _, due := range must(d.w.Upkeep.Upkeep(t.Context()))(t).Due {
		if due.What == "film" {
			wears = 1000 * *due.Share
		}
	}
	if plate := d.laid(1); wears != 200 || plate.Wear[0].Used != 200 {
		t.Errorf("%v layers due, %v on the plate, 200 with the next print", wears, plate.Wear[0].Used)
	}
	// A knot that was corrected counts from its new date; one that was retired no more.
	moved := must(d.w.Kit.CorrectEvent(t.Context(), film.ID, film.Version, json.RawMessage(fmt.Sprintf(`{"at_ms": %d}`, begin.Add(7*24*time.Hour).UnixMilli())), "typed wrong"))(t)
	if a, b := layers(early.Run.ID), layers(late.Run.ID); a != -1 || b != 0 {
		t.Errorf("after the correction: %v and %v", a, b)
	}
	must(d.w.Kit.RetireEvent(t.Context(), film.ID, moved.Version, "it was the other machine"))(t)
	if b := layers(late.Run.ID); b != -1 {
		t.Errorf("after it was retired: %v", b)
	}
	if history := must(d.w.History.Of(t.Context(), "machine_event", film.ID))(t); len(history) != 2 || history[0].Why != "typed wrong" {
		t.Errorf("%+v", history)
	}
}

func TestReadingsAreQuestionedCorrectedAndNeverLost(t *testing.T) {
	d := newDesk(t)
	sheet := d.run(nil)
	length, pins := d.piece.Features[0], d.piece.Features[1]
	read := func(v float64, corrects *string, confirmed bool) (printing.RunSheet, error) {
		return d.w.Inspect.RecordReadings(t.Context(), sheet.Run.ID, []bench.Reading{{SpecimenID: sheet.Specimens[0].ID, FeatureID: length.ID,
			InstrumentID: &d.tool.ID, ValueMM: &v, CorrectsID: corrects}}, confirmed)
	}
	if _, err := read(3.01, nil, false); !errors.Is(err, bench.ErrQuestioned) {
		t.Errorf("3.01 for a nominal of 30: %v, want it questioned", err)
	}
	must(read(30.02, nil, false))(t)
	slip := must(read(3.01, nil, true))(t)
	wrong := slip.Readings[1].ID
	got := must(read(30.04, &wrong, false))(t)
	if len(got.Readings) != 2 || len(got.Corrected) != 1 || *got.Corrected[0].ValueMM != 3.01 {
		t.Errorf("%d count, %d corrected", len(got.Readings), len(got.Corrected))
	}
	if f := got.Dimensions.Features[0]; f.N != 2 || !quantity.Equal(f.MeanMM, 30.03) {
		t.Errorf("summary %+v, want the mean of 30.02 and 30.04", f)
	}
	if _, err := read(30.05, &wrong, false); err == nil {
		t.Error("a reading was corrected twice")
	}
	rung := []bench.Reading{{SpecimenID: sheet.Specimens[0].ID, FeatureID: pins.ID, RungMM: quantity.Ptr(0.3), Intact: quantity.Ptr(true)}}
	must(d.w.Inspect.RecordReadings(t.Context(), sheet.Run.ID, rung, false))(t)
	_, err := d.w.Inspect.RecordReadings(t.Context(), sheet.Run.ID, rung, false)
	wantField(t, err, "readings[0].corrects_id")
	rung[0].RungMM = quantity.Ptr(0.31) // the ladder has no such size
	_, err = d.w.Inspect.RecordReadings(t.Context(), sheet.Run.ID, rung, false)
	wantField(t, err, "readings[0].rung_mm")
}

func TestALostSpecimenLeavesTheDetailContest(t *testing.T) {
	d := newDesk(t)
	sheet := d.run(nil)
	var readings []bench.Reading
	for _, s := range sheet.Specimens {
		readings = append(readings, bench.Reading{SpecimenID: s.ID, FeatureID: d.piece.Features[0].ID, InstrumentID: &d.tool.ID, ValueMM: quantity.Ptr(30.0 + float64(s.Copy))})
	}
	must(d.w.Inspect.RecordReadings(t.Context(), sheet.Run.ID, readings, true))(t)
	outcomes := sheet.Specimens
	outcomes[0].Outcome = "lost"
	outcomes[1].Outcome, outcomes[2].Outcome = "whole", "whole"
	_, err := d.w.Inspect.JudgeSpecimens(t.Context(), sheet.Run.ID, outcomes)
	wantField(t, err, "outcomes[0].defects")
	ruin(&outcomes[0], "lost", "delamination", "printed", "machine")
	got := must(d.w.Inspect.JudgeSpecimens(t.Context(), sheet.Run.ID, outcomes))(t)
	if f := got.Dimensions.Features[0]; f.N != 2 || f.MeanMM != 32.5 || !reflect.DeepEqual(got.SetAside, []string{"S-001-01"}) {
		t.Errorf("n = %d, mean %v, set aside %v", f.N, f.MeanMM, got.SetAside)
	}
}

func TestComparisonNamesConfoundsAndCountsWhatItKnows(t *testing.T) {
	d := newDesk(t)
	finish := func(temp float64, lost int) printing.RunSheet {
		sheet := d.run(func(r *bench.Run) { r.ResinTempC, r.ResinUsedG = &temp, quantity.Ptr(8.0) })
		for i := range sheet.Specimens {
			sheet.Specimens[i].Outcome = "whole"
			if i < lost {
				ruin(&sheet.Specimens[i], "lost", "warp", "printed", "operator")
			}
		}
		return must(d.w.Inspect.JudgeSpecimens(t.Context(), sheet.Run.ID, sheet.Specimens))(t)
	}
	a := finish(22, 0)
	d.clock = d.clock.Add(30 * 24 * time.Hour) // past the bottle's expiry
	b := finish(29, 2)
	c := must(d.w.Reviews.Compare(t.Context(), compare.ComparisonRequest{Sides: [][]string{{a.Run.ID}, {b.Run.ID}}, Question: "failure", Policy: "each_calibrated"}))(t)
	weight := map[string]string{}
	for _, r := range c.Audits[0].Result.Rows {
		weight[r.Factor] = r.State + " " + r.Weight
	}
	for factor, want := range map[string]string{"resin_temp_c": "differs major", "bottle_age_days": "differs major", "layer_um": "same none", "supports": "unknown minor", "film_layers": "unknown major",
		"machine": "same none", "exposure_basis": "differs major", "panel": "same none", "prints": "same major"} {
		if weight[factor] != want {
			t.Errorf("%s is %q, want %q", factor, weight[factor], want)
		}
	}
	if c.Audits[0].Result.Grade != "not_comparable" || c.Audits[0].A != 1 || c.Audits[0].B != 0 {
		t.Errorf("%+v", c.Audits[0])
	}
	rates := map[string]contest.Estimate{}
	for _, m := range c.Measures {
		rates[m.Key] = m.Sides[1]
	}
	if o := c.Sides[1].Outcomes; o.Failed != 2 || o.ByMachine != 0 || o.Judged != 3 || *rates["failures"].Events != 2 || *rates["failures_machine"].Value != 0 || rates["failures"].Prints != 1 {
		t.Errorf("outcomes of B: %+v, %+v", o, rates["failures"])
	}
	if costs := c.Sides; costs[0].Cost == nil || costs[0].Cost.PerGoodPiece == nil || *costs[1].Cost.PerGoodPiece <= *costs[0].Cost.PerGoodPiece {
		t.Errorf("a good piece costs %+v on A, %+v on B", c.Sides[0].Cost, c.Sides[1].Cost)
	}
	if len(c.Answers) != 2 || !strings.Contains(c.Answers[0], "so few prints could not have shown a difference") {
		t.Errorf("%q", c.Answers)
	}
}

func TestAFeatureThatMeansSomethingElseIsAnother(t *testing.T) {
	d := newDesk(t)
	features := d.piece.Features
	features[0].Name = "Long side"
	kept := must(d.w.Kit.SaveFeatures(t.Context(), d.piece.Piece.ID, d.piece.FeaturesVersion, features))(t)
	same := kept.Features
	if same[0].ID != features[0].ID {
		t.Error("a new name made another feature")
	}
	features[0].NominalMM = quantity.Ptr(31.0)
	other := must(d.w.Kit.SaveFeatures(t.Context(), d.piece.Piece.ID, kept.FeaturesVersion, features[:1]))(t).Features
	if other[0].ID == features[0].ID {
		t.Error("readings of 30 mm would now be read against 31 mm")
	}
	if cards := must(d.w.Kit.Pieces(t.Context()))(t); len(cards[0].Features) != 1 {
		t.Errorf("%d features shown, want the retired ones hidden", len(cards[0].Features))
	}
}
