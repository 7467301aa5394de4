package demo

import (
	"math"
	"strings"
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/work"
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
}

var behaviours = map[string]behaviour{
	"Harrow 6":  {bestS: 2.2, finestMM: 0.19, bloomMM: 0.018, shrinkPct: 0.25, failChance: 0.04, biasFactor: 1.06},
	"Tern Mini": {bestS: 2.8, finestMM: 0.27, bloomMM: 0.034, shrinkPct: 0.20, failChance: 0.13, biasFactor: 1.19},
	"Corvid L":  {bestS: 1, finestMM: 0.30, bloomMM: 0.010, shrinkPct: 0.45, failChance: 0.05, biasFactor: 1.03},
}

var resinFactor = map[string]float64{"Fable Grey": 1, "Heron Blue": 0.9, "Madder Tough": 1.25}

func fileName(name string) string {
	return strings.ReplaceAll(strings.ToLower(name), " ", "-") + ".stl"
}

// story tells the two months in order.
func (d *scene) story() error {
	steps := []func() error{
		func() error { return d.series("Harrow 6", "Fable Grey", 1.6, 0.2) },
		func() error { return d.series("Tern Mini", "Fable Grey", 2.0, 0.3) },
		func() error { return d.byDefault("Harrow 6", "Heron Blue", 2.5, "default") },
		func() error { return d.byDefault("Tern Mini", "Heron Blue", 2.6, "borrowed") },
		func() error { return d.byDefault("Harrow 6", "Madder Tough", 2.8, "default") },
		d.sealed,
		func() error { return d.prints("Harrow 6", "Fable Grey", "Pin and slot coupon", 4, 2) },
		func() error { return d.prints("Tern Mini", "Fable Grey", "Pin and slot coupon", 4, 2) },
		func() error { return d.knot("Tern Mini", "relevel", "plate sat low at the left") },
		func() error { return d.prints("Harrow 6", "Fable Grey", "Warden with staff", 6, 3) },
		func() error { return d.prints("Tern Mini", "Fable Grey", "Warden with staff", 4, 3) },
		func() error { return d.prints("Corvid L", "Fable Grey", "Warden with staff", 4, 2) },
		func() error { return d.knot("Harrow 6", "film", "new film after 41 000 layers") },
		func() error { return d.prints("Harrow 6", "Heron Blue", "Cage lantern", 4, 2) },
		func() error { return d.prints("Tern Mini", "Heron Blue", "Cage lantern", 3, 2) },
		func() error { return d.knot("Corvid L", "light_calibration", "after the move to the other shelf") },
		func() error { return d.prints("Corvid L", "Fable Grey", "Spined wyrm", 2, 2) },
		func() error { return d.prints("Harrow 6", "Madder Tough", "Spined wyrm", 3, 2) },
		func() error { return d.knot("Harrow 6", "relevel", "checked after the film change") },
		func() error { return d.prints("Tern Mini", "Fable Grey", "Spined wyrm", 3, 2) },
		func() error { return d.prints("Harrow 6", "Fable Grey", "Spined wyrm", 3, 2) },
		func() error { return d.prints("Corvid L", "Fable Grey", "Pin and slot coupon", 3, 2) },
	}
	for _, step := range steps {
		if err := step(); err != nil {
			return err
		}
	}
	return nil
}

// later moves the clock on to some working hour.
func (d *scene) later(hours float64) {
	d.clock = d.clock.Add(time.Duration((hours + 6*d.chance.Float64()) * float64(time.Hour)))
}

func (d *scene) knot(machine, kind, note string) error {
	d.later(4)
	_, err := d.work.AddEvent(d.ctx, bench.MachineEvent{MachineID: d.machines[machine].Machine.ID, AtMS: d.clock.UnixMilli(), Kind: kind, Note: note})
	return err
}

func (d *scene) series(machine, resin string, from, step float64) error {
	d.later(6)
	b := behaviours[machine]
	sheet, err := d.work.PlanSeries(d.ctx, work.SeriesPlan{
		MachineID: d.machines[machine].Machine.ID, ResinID: d.resins[resin].Resin.ID, LayerUM: 50, School: "detail",
		FromS: from, StepS: step, Cells: 6, BottomLayers: 5, BottomExposureS: 30, TransitionLayers: 6, Origin: "the resin's label",
	})
	if err != nil {
		return err
	}
	for _, c := range sheet.Cells {
		over := math.Log(c.Cell.ExposureS / (b.bestS * resinFactor[resin]))
		pin := snap(pinSizes, b.finestMM*math.Exp(-2.2*over+d.noise(0.05)))
		gap := snap(gapSizes, b.finestMM*math.Exp(2.2*over+d.noise(0.05)))
		ok := int64(max(0, min(20, math.Round(20+30*min(0, over+0.12)))))
		d.clock = d.clock.Add(4 * time.Minute)
		sheet, err = d.work.RecordCell(d.ctx, sheet.Series.ID, c.Cell.Number, bench.CellReading{
			Survived: quantity.Ptr(over > -0.35), SmallestPinMM: &pin, SmallestGapMM: &gap,
			OuterErrorMM: quantity.Ptr(round(b.bloomMM/2+0.16*over+d.noise(0.006), 0.001)),
			InnerErrorMM: quantity.Ptr(round(-b.bloomMM/2-0.15*over+d.noise(0.006), 0.001)),
			FeaturesOK:   &ok, FeaturesTotal: quantity.Ptr[int64](20),
		})
		if err != nil {
			return err
		}
	}
	choice := b.bestS
	if sheet.Result.Recommended != nil {
		choice = sheet.Result.Recommended.DialS
	}
	sheet, err = d.work.Accept(d.ctx, sheet.Series.ID, choice, "grey 4")
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
	p, err := d.work.AddProfile(d.ctx, bench.Profile{
		MachineID: d.machines[machine].Machine.ID, ResinID: d.resins[resin].Resin.ID, LayerUM: 50, ExposureS: &exposure, BottomLayers: 5,
		BottomExposureS: quantity.Ptr(30.0), TransitionLayers: 6, Antialiasing: "grey 4", Basis: basis, Note: "from the label",
	})
	d.profiles[machine+resin] = p
	return err
}

func (d *scene) sealed() error {
	p, err := d.work.AddProfile(d.ctx, bench.Profile{
		MachineID: d.machines["Corvid L"].Machine.ID, ResinID: d.resins["Fable Grey"].Resin.ID, LayerUM: 50, Basis: "sealed",
		SealedName: "Grey, fine", Antialiasing: "none", Note: "the machine hides its exposures",
	})
	d.profiles["Corvid LFable Grey"] = p
	return err
}

// prints makes a number of runs of a piece, judges and reads them.
func (d *scene) prints(machine, resin, piece string, runs int, copies int64) error {
	for range runs {
		if err := d.print(machine, resin, piece, copies); err != nil {
			return err
		}
	}
	return nil
}

func (d *scene) print(machine, resin, piece string, copies int64) error {
	d.later(12)
	b, card := behaviours[machine], d.pieces[piece]
	draft, err := d.work.DraftRun(d.ctx, d.machines[machine].Machine.ID)
	if err != nil {
		return err
	}
	run := draft.Run
	if draft.CarriedFrom == "" {
		run.FilmLayers, run.FilmClouded = quantity.Ptr(float64(2000+d.chance.IntN(20000))), quantity.Ptr(false)
		run.DaysSinceLevel, run.MovedSinceLevel = quantity.Ptr(3.0), quantity.Ptr(false)
	}
	profile, bottle := d.profiles[machine+resin], d.bottles[resin]
	run.ResinID, run.ProfileID, run.PieceID, run.BottleID, run.Copies = d.resins[resin].Resin.ID, profile.ID, card.Piece.ID, &bottle.ID, copies
	run.Software, run.Orientation, run.Supports = quantity.Ptr("Carver 1.4"), quantity.Ptr("upright"), quantity.Ptr("set A, tip 0.3 mm")
	run.WashS, run.CureS, run.Surface, run.AttendedMin = quantity.Ptr(180.0), quantity.Ptr(120.0), quantity.Ptr("raw"), quantity.Ptr(18.0)
	day := float64(d.clock.YearDay())
	run.RoomTempC = quantity.Ptr(round(21+1.5*math.Sin(day/9)+d.noise(0.6), 0.1))
	run.ResinTempC = quantity.Ptr(round(*run.RoomTempC+2.5+d.noise(0.5), 0.1))
	e, err := d.work.EstimateRun(d.ctx, profile.ID, card.Piece.ID, copies, 100)
	if err != nil {
		return err
	}
	actual := *e.TotalS * math.Exp(math.Log(1.02)+d.noise(0.01))
	run.SoftwareEstimateS = quantity.Ptr(math.Round(actual / b.biasFactor * math.Exp(d.noise(0.02))))
	run.StartedMS = d.clock.UnixMilli()
	d.clock = d.clock.Add(time.Duration(actual) * time.Second)
	run.EndedMS = quantity.Ptr(d.clock.UnixMilli())
	solid := card.Piece.VolumeML * float64(copies) * (1 + card.Piece.SupportPct/100)
	run.ResinUsedG = quantity.Ptr(round((solid*1.07+3+d.noise(0.4))**d.resins[resin].Resin.DensityGML, 0.1))
	sheet, err := d.work.SaveRun(d.ctx, run)
	if err != nil {
		return err
	}
	return d.inspect(sheet, b)
}
