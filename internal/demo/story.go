package demo

import (
	"errors"
	"math"
	"strings"
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/work/dialin"
	"ojime/internal/work/planning"
	"ojime/internal/work/printing"
)

// believable physics of the demo: for each machine the exposure at which Fable
// Grey comes right, how fine it draws, and how its sizes are off.
type behaviour struct {
	bestS      float64
	finestMM   float64
	bloomMM    float64
	shrinkPct  float64
	failChance float64
	biasFactor float64
	roomC      float64 // the machine's place against the rest of the room
	blemish    string  // what mars its finish, on a copy in four
}

var behaviours = map[string]behaviour{
	"Harrow 6":               {bestS: 2.2, finestMM: 0.19, bloomMM: 0.018, shrinkPct: 0.25, failChance: 0.04, biasFactor: 1.06},
	"Tern Mini":              {bestS: 2.8, finestMM: 0.27, bloomMM: 0.034, shrinkPct: 0.20, failChance: 0.13, biasFactor: 1.19, roomC: -1.8},
	"Plover Box":             {bestS: 2, finestMM: 0.29, bloomMM: 0.028, shrinkPct: 0.3, failChance: 0.07, biasFactor: 1.1},
	"Harrow 6 by the window": {bestS: 2.2, finestMM: 0.19, bloomMM: 0.02, shrinkPct: 0.25, failChance: 0.05, biasFactor: 1.06, roomC: 1.5},
	"Harrow 6 lent":          {bestS: 2.3, finestMM: 0.20, bloomMM: 0.018, shrinkPct: 0.24, failChance: 0.04, biasFactor: 1.07},
	"Tern Mini II":           {bestS: 2.8, finestMM: 0.26, bloomMM: 0.03, shrinkPct: 0.2, failChance: 0.08, biasFactor: 1.18},
	"Plover Box II":          {bestS: 2, finestMM: 0.3, bloomMM: 0.028, shrinkPct: 0.3, failChance: 0.07, biasFactor: 1.1},
	"Corvid L":               {bestS: 1, finestMM: 0.30, bloomMM: 0.010, shrinkPct: 0.45, failChance: 0.05, biasFactor: 1.03},
}

var resinFactor = map[string]float64{"Fable Grey": 1, "Heron Blue": 0.9, "Madder Tough": 1.25}

func fileName(name string) string {
	return strings.ReplaceAll(strings.ToLower(name), " ", "-") + ".stl"
}

// scenes tells the two months in order, one entry a working day or two.
func (d *scene) scenes() []func() error {
	print := func(machine, resin, piece string, copies int64) func() error {
		return func() error { return d.print(machine, resin, piece, copies) }
	}
	knot := func(machine, kind, note string) func() error {
		return func() error { return d.knot(machine, kind, note) }
	}
	const harrow, tern, corvid, plover = "Harrow 6", "Tern Mini", "Corvid L", "Plover Box"
	const grey, blue, tough = "Fable Grey", "Heron Blue", "Madder Tough"
	const pins, figure, cage, spines = "Step coupon", "Warden with staff", "Cage lantern", "Spined wyrm"
	return []func() error{
		func() error { return d.series(harrow, grey, 1.6, 0.2) },
		func() error { return d.series(tern, grey, 2.0, 0.3) },
		func() error { return d.otherSettings() },
		print(harrow, grey, pins, 2), print(tern, grey, pins, 2), print(harrow, grey, pins, 2), print(corvid, grey, figure, 2),
		print(tern, grey, pins, 2), knot(tern, "relevel", "plate sat low at the left"),
		print(harrow, grey, pins, 2), print(tern, grey, pins, 2), print(corvid, grey, figure, 2),
		print(harrow, grey, figure, 4), print(tern, grey, figure, 3), print(plover, grey, cage, 2), print(harrow, grey, figure, 4),
		knot(corvid, "light_calibration", "after the move to the other shelf"), print(corvid, grey, figure, 2),
		print(tern, grey, figure, 3), print(plover, grey, figure, 3), print(harrow, blue, cage, 2), knot(harrow, "film", "old one had gone cloudy at the front"),
		print(harrow, blue, cage, 2), print(tern, grey, figure, 3), print(plover, grey, spines, 2), print(corvid, grey, spines, 2),
		print(harrow, tough, spines, 2), print(tern, blue, cage, 2), print(harrow, tough, spines, 2),
		print(corvid, grey, spines, 2), print(tern, blue, cage, 2), print(plover, grey, figure, 3), print(harrow, grey, figure, 4),
		knot(harrow, "relevel", "checked after the film change"), print(corvid, grey, pins, 2), print(tern, grey, figure, 3),
		print(harrow, grey, figure, 4), print(plover, grey, cage, 2), print(corvid, grey, pins, 2),
	}
}

// story plays the scenes evenly over the two months, then leaves the bench as
// one finds it: a series half read and a plate not judged.
func (d *scene) story() error {
	scenes := d.scenes()
	begin := d.clock
	for i, play := range scenes {
		day := begin.Add(span * time.Duration(i) / time.Duration(len(scenes)+2))
		d.clock = time.Date(day.Year(), day.Month(), day.Day(), 0, 0, 0, 0, day.Location()).Add(time.Duration((8 + 8*d.chance.Float64()) * float64(time.Hour)))
		if err := play(); err != nil {
			return err
		}
	}
	d.clock = begin.Add(span - 20*time.Hour)
	if err := d.halfSeries("Harrow 6", "Heron Blue"); err != nil {
		return err
	}
	d.judging = false
	return d.printPlate("Wyrms and a lantern", "Tern Mini", "Fable Grey", d.lot("Spined wyrm", 2), d.lot("Cage lantern", 1))
}

// halfSeries plans a series and reads its first cells only.
func (d *scene) halfSeries(machine, resin string) error {
	sheet, err := d.plan(machine, resin, 1.6, 0.2)
	if err != nil {
		return err
	}
	for _, c := range sheet.Cells[:4] {
		if _, err := d.readCell(sheet, c, behaviours[machine], resin); err != nil {
			return err
		}
	}
	return nil
}

func (d *scene) otherSettings() error {
	for _, p := range []struct {
		machine, resin, basis string
		exposure              float64
	}{{"Harrow 6", "Heron Blue", "default", 2.5}, {"Tern Mini", "Heron Blue", "borrowed", 2.6}, {"Harrow 6", "Madder Tough", "default", 2.8}} {
		if err := d.byDefault(p.machine, p.resin, p.exposure, p.basis); err != nil {
			return err
		}
	}
	return errors.Join(d.sealed("Corvid L", "Grey, fine"), d.sealed("Plover Box", "House grey"))
}

func (d *scene) knot(machine, kind, note string) error {
	_, err := d.work.Kit.AddEvent(d.ctx, bench.MachineEvent{MachineID: d.machines[machine].Machine.ID, AtMS: d.clock.UnixMilli(), Kinds: bench.IDs{kind}, Note: note})
	return err
}

func (d *scene) plan(machine, resin string, from, step float64) (dialin.SeriesSheet, error) {
	return d.work.DialIn.PlanSeries(d.ctx, dialin.SeriesPlan{
		MachineID: d.machines[machine].Machine.ID, ResinID: d.resins[resin].Resin.ID, LayerUM: 50, School: "detail",
		FromS: from, StepS: step, Cells: 6, BottomLayers: 5, BottomExposureS: 30, TransitionLayers: 6, Origin: "the resin's label",
	})
}

// readCell judges one cell as its exposure would have it.
func (d *scene) readCell(sheet dialin.SeriesSheet, c dialin.SeriesCell, b behaviour, resin string) (dialin.SeriesSheet, error) {
	over := math.Log(c.Cell.ExposureS / (b.bestS * resinFactor[resin]))
	pin := snap(pinSizes, b.finestMM*math.Exp(-2.2*over+d.noise(0.05)))
	gap := snap(gapSizes, b.finestMM*math.Exp(2.2*over+d.noise(0.05)))
	ok := int64(max(0, min(20, math.Round(20+30*min(0, over+0.12)))))
	d.clock = d.clock.Add(4 * time.Minute)
	return d.work.DialIn.RecordCell(d.ctx, sheet.Series.ID, c.Cell.Number, bench.CellReading{
		Survived: quantity.Ptr(over > -0.35), SmallestPinMM: &pin, SmallestGapMM: &gap,
		OuterErrorMM: quantity.Ptr(round(b.bloomMM/2+0.16*over+d.noise(0.006), 0.001)),
		InnerErrorMM: quantity.Ptr(round(-b.bloomMM/2-0.15*over+d.noise(0.006), 0.001)),
		FeaturesOK:   &ok, FeaturesTotal: quantity.Ptr[int64](20),
	}, dialin.CellSizes{})
}

func (d *scene) series(machine, resin string, from, step float64) error {
	b := behaviours[machine]
	sheet, err := d.plan(machine, resin, from, step)
	if err != nil {
		return err
	}
	for _, c := range sheet.Cells {
		if sheet, err = d.readCell(sheet, c, b, resin); err != nil {
			return err
		}
	}
	choice := b.bestS
	if sheet.Result.Recommended != nil {
		choice = sheet.Result.Recommended.DialS
	}
	sheet, err = d.work.DialIn.Accept(d.ctx, sheet.Series.ID, choice, "grey 4")
	if err != nil {
		return err
	}
	d.profiles[machine+resin] = *sheet.Profile
	return nil
}

// snap takes the next rung of a ladder that is not finer.
func snap(rungs []float64, v float64) float64 {
	for _, r := range rungs {
		if r >= v {
			return r
		}
	}
	return rungs[len(rungs)-1]
}

func (d *scene) byDefault(machine, resin string, exposure float64, basis string) error {
	p, err := d.work.Kit.AddProfile(d.ctx, bench.Profile{
		MachineID: d.machines[machine].Machine.ID, ResinID: d.resins[resin].Resin.ID, LayerUM: 50, ExposureS: &exposure, BottomLayers: quantity.Ptr[int64](5),
		BottomExposureS: quantity.Ptr(30.0), TransitionLayers: quantity.Ptr[int64](6), Antialiasing: "grey 4", Basis: basis, Note: "from the label",
	})
	d.profiles[machine+resin] = p
	return err
}

func (d *scene) sealed(machine, name string) error {
	p, err := d.work.Kit.AddProfile(d.ctx, bench.Profile{
		MachineID: d.machines[machine].Machine.ID, ResinID: d.resins["Fable Grey"].Resin.ID, LayerUM: 50, Basis: "sealed",
		SealedName: name, Antialiasing: "none", Note: "the machine hides its exposures",
	})
	d.profiles[machine+"Fable Grey"] = p
	return err
}

// took is how long a print really takes: what the model says and a little more,
// or, where the maker hides the settings, what the machine does by itself.
func (d *scene) took(machine string, e planning.Estimate) float64 {
	if machine == "Plover Box" {
		return (210 + 10.8*float64(e.Layers)) * math.Exp(d.noise(0.012))
	}
	s := *e.TotalS * math.Exp(math.Log(1.02)+d.noise(0.01))
	if machine == wheatear && d.trying.roomC < 0 {
		s *= 1.2 // it waits for the resin to level in the cold
	}
	return s
}

// print makes one run of a piece, judges it and reads its specimens.
func (d *scene) print(machine, resin, piece string, copies int64) error {
	card, profile := d.pieces[piece], d.profiles[machine+resin]
	e, err := d.work.Planning.EstimateRun(d.ctx, profile.ID, card.Piece.ID, copies, 100)
	if err != nil {
		return err
	}
	return d.record(machine, resin, e, card.Piece.VolumeML*float64(copies)*(1+card.Piece.SupportPct/100), printing.Recording{Pieces: []printing.Portion{{PieceID: card.Piece.ID, Copies: copies}}})
}

// printPlate lays a plate and prints it as one run.
func (d *scene) printPlate(name, machine, resin string, lots ...planning.Packing) error {
	sheet, err := d.lay(name, machine, resin, 0, 150, lots)
	if err != nil {
		return err
	}
	return d.record(machine, resin, sheet.Time.Estimate, sheet.Resins.SolidML, printing.Recording{Run: bench.Run{PlateID: &sheet.Plate.ID}})
}

// record puts a print on record that took what its estimate, and the machine's way of
// keeping to it, come to.
func (d *scene) record(machine, resin string, e planning.Estimate, solidML float64, rec printing.Recording) error {
	b := behaviours[machine]
	if machine == siskin || machine == dunnock || machine == wheatear {
		b = d.trying
	}
	if err := d.found(machine); err != nil {
		return err
	}
	draft, err := d.work.Printing.DraftRun(d.ctx, d.machines[machine].Machine.ID)
	if err != nil {
		return err
	}
	run := draft.Run
	profile, bottle := d.profiles[machine+resin], d.bottles[resin]
	run.PlateID = rec.PlateID
	run.ResinID, run.ProfileID, run.BottleID = d.resins[resin].Resin.ID, profile.ID, &bottle.ID
	run.Software, run.Orientation, run.Supports = quantity.Ptr("Carver 1.4"), quantity.Ptr("upright"), quantity.Ptr("set A, tip 0.3 mm")
	run.WashS, run.CureS, run.Surface, run.AttendedMin = quantity.Ptr(180.0), quantity.Ptr(120.0), quantity.Ptr("raw"), quantity.Ptr(18.0)
	run.FilmClouded = quantity.Ptr(false)
	season := float64(d.season())
	run.RoomTempC = quantity.Ptr(round(21+1.5*math.Sin(season/9)+d.noise(0.6)+b.roomC, 0.1))
	run.ResinTempC = quantity.Ptr(round(*run.RoomTempC+2.5+d.noise(0.5), 0.1))
	actual := d.took(machine, e)
	run.SoftwareEstimateS = quantity.Ptr(math.Round(actual / b.biasFactor * math.Exp(d.noise(0.02))))
	run.StartedMS = d.clock.UnixMilli()
	d.clock = d.clock.Add(time.Duration(actual) * time.Second)
	run.EndedMS = quantity.Ptr(d.clock.UnixMilli())
	run.ResinUsedG = quantity.Ptr(round((solidML*1.07+3+d.noise(0.4))**d.resins[resin].Resin.DensityGML, 0.1))
	rec.Run = run
	sheet, err := d.work.Printing.RecordRun(d.ctx, rec)
	if err == nil {
		sheet, err = d.room(sheet)
	}
	if err != nil {
		return err
	}
	d.last = sheet
	if !d.judging {
		return nil
	}
	return d.inspect(sheet, b)
}

// found ties the knots of a machine's first day: what its film had seen before, and
// that it was levelled. One came used, and nobody knows what its light had seen.
func (d *scene) found(machine string) error {
	if d.met[machine] {
		return nil
	}
	d.met[machine] = true
	seen := float64(2000 + d.chance.IntN(20000))
	m := bench.MachineEvent{MachineID: d.machines[machine].Machine.ID, AtMS: d.clock.Add(-time.Hour).UnixMilli(), Kinds: bench.IDs{"counter"}, FilmLayers: &seen, Note: "as its own counter showed it"}
	if machine == "Harrow 6" {
		m.LightH = quantity.Ptr(212.0)
	}
	if _, err := d.work.Kit.AddEvent(d.ctx, m); err != nil {
		return err
	}
	_, err := d.work.Kit.AddEvent(d.ctx, bench.MachineEvent{MachineID: m.MachineID, AtMS: d.clock.Add(-72 * time.Hour).UnixMilli(), Kinds: bench.IDs{"relevel"}, Note: "when it was set up"})
	return err
}
