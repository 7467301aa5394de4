// Package demo fills an empty record with two months of an invented bench. It
// goes through the same tasks as a user; its readings come from a small
// simulation with a fixed seed, never from a real machine.
package demo

import (
	"context"
	"fmt"
	"math"
	"math/rand/v2"
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/coupon"
	"ojime/internal/core/mesh"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work"
	"ojime/internal/work/kit"
	"ojime/internal/work/planning"
	"ojime/internal/work/printing"
)

// seed fixes every number of the demo.
const seed = 20410

// span is how long before now the demo begins.
const span = 61 * 24 * time.Hour

// scene is the demo while it is built. Its clock moves with the story.
type scene struct {
	ctx     context.Context
	work    *work.Work
	clock   time.Time
	now     time.Time // when the story ends, in the night before
	present time.Time // when the demo is looked at: what is at work began just before it
	judging bool      // whether plates are judged after printing
	chance  *rand.Rand

	machines   map[string]kit.MachineCard
	resins     map[string]kit.ResinCard
	bottles    map[string]bench.Bottle
	pieces     map[string]kit.PieceCard
	profiles   map[string]bench.Profile
	laid       map[string]planning.PlateSheet
	instrument bench.Instrument
	met        map[string]bool   // machines whose first day is told
	last       printing.RunSheet // the print made last
	trying     behaviour         // of the machine on which settings and resins are tried
	lossy      int               // plates so far that lost a copy
	ofBoth     []string          // the prints of the two machines that are rated
}

// source draws bytes for ids from the seeded stream.
type source struct{ chance *rand.Rand }

func (s source) Read(p []byte) (int, error) {
	for i := range p {
		p[i] = byte(s.chance.Uint32())
	}
	return len(p), nil
}

// Fill builds the demo in an empty record and reports whether it did; a record
// that holds a machine is left as it is.
func Fill(ctx context.Context, s *store.Store, now time.Time) (bool, error) {
	d := newScene(ctx, s, now, span)
	there, err := d.work.Kit.Machines(ctx)
	if err != nil || len(there) > 0 {
		return false, err
	}
	for _, step := range []func() error{d.kit, d.rooms, d.unitPictured, d.models, d.kinds, d.story, d.template, d.plates, d.upkeep, d.atWork, d.experiments, d.verdict, d.twoMachines} {
		if err := step(); err != nil {
			return false, fmt.Errorf("build the demo: %w", err)
		}
	}
	return true, nil
}

func (d *scene) kit() error {
	move := func(mm, speed float64) bench.Moves { return bench.Moves{{MM: mm, MMMin: speed}} }
	masked := bench.Machine{
		LightEngine: "masked_lcd", DialStepS: 0.1, Lift: bench.Moves{{MM: 3, MMMin: 60}, {MM: 4, MMMin: 180}},
		Retract: move(7, 180), WaitBeforeS: 1, WaitAfterS: 0.3, StartS: 45, EndS: 25, PriceTaxIncluded: true,
	}
	p := quantity.Ptr[float64]
	n := quantity.Ptr[int64]
	harrow, tern := masked, masked
	harrow.Name, harrow.Maker, harrow.WidthMM, harrow.DepthMM, harrow.HeightMM, harrow.PxX, harrow.PxY = "Harrow 6", "Brindle Works", 158.72, 89.28, 170, n(5120), n(2880)
	harrow.VatMaxML, harrow.VatDeadML, harrow.PowerW, harrow.PriceList, harrow.PriceExtras = p(320), p(60), 62, p(349), 38
	harrow.FilmPrice, harrow.FilmLifeLayers, harrow.LightPrice, harrow.LightLifeH = p(14), p(60000), p(95), p(1500)
	harrow.SuppliedBy, harrow.IrradianceMWCM2, harrow.CellExposure, harrow.ClaimedMMH = "bought by the reviewer", p(3.4), "together", p(70)
	tern.Name, tern.Maker, tern.WidthMM, tern.DepthMM, tern.HeightMM, tern.PxX, tern.PxY = "Tern Mini", "Saltmarsh Tools", 128.8, 80.5, 150, n(2800), n(1750)
	tern.VatMaxML, tern.VatDeadML, tern.PowerW, tern.PriceList, tern.PriceDiscount = p(240), p(45), 48, p(229), 20
	tern.FilmPrice, tern.FilmLifeLayers, tern.LightPrice, tern.LightLifeH = p(11), p(50000), p(60), p(1200)
	tern.ClaimedMMH = p(60)
	plover := masked
	plover.Name, plover.Maker, plover.WidthMM, plover.DepthMM, plover.HeightMM, plover.PxX, plover.PxY = "Plover Box", "Dunlin Row", 120, 68, 140, n(2560), n(1440)
	plover.VatMaxML, plover.VatDeadML, plover.PowerW, plover.PriceList = p(180), p(35), 42, p(319)
	plover.FilmPrice, plover.FilmLifeLayers, plover.LightPrice, plover.LightLifeH = p(18), p(45000), p(80), p(1000)
	plover.QuirkFiles, plover.QuirkRestart = "in the first folder of the stick, names without spaces", "switch it off and on, or the second job starts at the old height"
	plover.QuirkHeight, plover.QuirkSettings, plover.QuirkFilms = "136 mm, though 140 are claimed", "only the profile's name is shown", "the blue one on the panel stays"
	plover.QuirkFaults = bench.QuirkFaults{{Symptom: "no adhesion", Text: "the second job starts at the height of the first", Workaround: "switched off and on before each job"}}
	plover.SuppliedBy, plover.Notes = "lent by its maker for a month", "Settings are sealed: only the name of a profile is shown."
	tern.SuppliedBy, tern.IrradianceMWCM2, tern.WaitBeforeS = "lent by its maker until the end of the year", p(2.6), 2
	corvid := bench.Machine{
		Name: "Corvid L", Maker: "Ninefold", LightEngine: bench.Laser, WidthMM: 145, DepthMM: 145, HeightMM: 185, DialStepS: 0.1,
		SpotUM: p(85), HatchMM: p(0.07), HatchMMS: p(2200), ContourPasses: n(2), ContourMMS: p(900), SettleS: p(6.5), StartS: 60, EndS: 30,
		VatMaxML: p(400), VatDeadML: p(90), PowerW: 110, PriceList: p(1890), PriceTaxIncluded: true, FilmPrice: p(49), FilmLifeLayers: p(80000),
		LightPrice: p(260), LightLifeH: p(5000), SuppliedBy: "bought second-hand by the reviewer",
	}
	for _, m := range []bench.Machine{harrow, tern, corvid, plover} {
		card, err := d.work.Kit.SaveMachine(d.ctx, m)
		if err != nil {
			return err
		}
		d.machines[m.Name] = card
	}
	if _, err := d.work.Kit.SurveyPlate(d.ctx, d.machines[harrow.Name].Machine.ID, bench.PlateSurvey{RightMM: 1.5, BackMM: 1, HeightMM: p(166.5),
		Spots: bench.Spots{{XMM: 150, YMM: 84, RadiusMM: 0.6, What: "weak pixel"}}, Note: "lit with the vat off; the tallest piece that comes out past the arm"}); err != nil {
		return err
	}
	if _, err := d.work.FirstDays.MeasureLight(d.ctx, d.machines[harrow.Name].Machine.ID, bench.LightGrid{Unit: "mW/cm²", Meter: "photodiode behind a 405 nm filter", Note: "after ten minutes of light",
		Readings: bench.GridRows{{3.31, 3.44, 3.47, 3.42, 3.28}, {3.38, 3.52, 3.55, 3.5, 3.35}, {3.19, 3.37, 3.41, 3.36, 3.12}}}); err != nil {
		return err
	}
	if err := d.units(); err != nil {
		return err
	}
	for _, r := range []bench.Resin{
		{Name: "Fable Grey", Maker: "Oakgall", Family: "standard", Colour: "#5b6b73", PrintsFromC: p(22), PrintsToC: p(30), DensityGML: p(1.10), BottleML: p(1000), PriceList: 27, PriceTaxIncluded: true, StatedWashS: p(180), StatedCureS: p(120)},
		{Name: "Heron Blue", Maker: "Oakgall", Family: "standard", Colour: "#2f5fb3", DensityGML: p(1.09), BottleML: p(500), PriceList: 19, PriceShipping: 2, PriceTaxIncluded: true, StatedWashS: p(180), StatedCureS: p(180)},
		{Name: "Madder Tough", Maker: "Lowfen", Family: "tough", Colour: "#b4473a", DensityGML: p(1.13), BottleG: p(1000), PriceList: 41, PriceTaxIncluded: true, StatedWashS: p(240), StatedCureS: p(240)},
	} {
		card, err := d.work.Kit.SaveResin(d.ctx, r)
		if err != nil {
			return err
		}
		d.resins[r.Name] = card
		opened := d.clock.AddDate(0, 0, -d.chance.IntN(40)).Format(time.DateOnly)
		expires := d.clock.AddDate(1, 0, 0).Format(time.DateOnly)
		b, err := d.work.Kit.SaveBottle(d.ctx, bench.Bottle{ResinID: card.Resin.ID, Lot: fmt.Sprintf("LOT %04d", 1000+d.chance.IntN(9000)), OpenedOn: &opened, ExpiresOn: &expires})
		if err != nil {
			return err
		}
		d.bottles[r.Name] = b
	}
	var err error
	d.instrument, err = d.work.Instruments.SaveInstrument(d.ctx, bench.Instrument{Name: "Digital caliper 150 mm", ResolutionMM: 0.01, ReferenceUMM: 0.01})
	return err
}

func (d *scene) models() error {
	dimension := func(name string, nominal float64, axis, face string) bench.Feature {
		return bench.Feature{Kind: "dimension", Name: name, NominalMM: &nominal, Axis: &axis, Face: &face}
	}
	checkpoint := func(name, place string) bench.Feature {
		return bench.Feature{Kind: "checkpoint", Name: name, Place: place}
	}
	made, err := d.work.DialIn.KeepCoupon(d.ctx, "Step coupon", coupon.Params{
		Number: 1, PostsMM: pinSizes, SlotsMM: gapSizes, Calipers: true, Staircase: true, Ramp: true, Dome: true,
	})
	if err != nil {
		return err
	}
	d.pieces["Step coupon"] = made
	for _, m := range []struct {
		name     string
		shape    []mesh.Triangle
		support  float64
		finestMM float64
		features []bench.Feature
	}{
		{"Warden with staff", warden(), 12, 0.14, []bench.Feature{checkpoint("Staff tip", "top of the staff"), checkpoint("Brow ridge", "front of the head"), dimension("Base width", 24, "x", "outer")}},
		{"Cage lantern", lantern(), 8, 0, []bench.Feature{checkpoint("All eight bars", "around the cage"), checkpoint("Finial", "top")}},
		{"Spined wyrm", wyrm(), 15, 0.12, []bench.Feature{checkpoint("Spine tips", "along the back"), dimension("Plinth length", 44, "x", "outer")}},
	} {
		card, err := d.work.Kit.ImportPiece(d.ctx, kit.NewPiece{Name: m.name, Revision: "1", FileName: fileName(m.name), SupportPct: m.support, File: kit.MeshBytes(mesh.WriteSTL(m.shape))}, nil)
		if err != nil {
			return err
		}
		if card, err = d.work.Kit.SaveFeatures(d.ctx, card.Piece.ID, card.FeaturesVersion, m.features); err != nil {
			return err
		}
		if m.finestMM > 0 {
			kept, err := d.work.Kit.SaveAllowances(d.ctx, card.Piece.ID, kit.Allowances{Version: card.Piece.Version, SupportPct: m.support, RaftML: 0.3, FinestMM: &m.finestMM, ReliefMM: quantity.Ptr(0.1)}, nil)
			if err != nil {
				return err
			}
			card.Piece = kept.Piece
		}
		d.pieces[m.name] = card
	}
	return nil
}

// noise is a normal deviate of standard deviation sd.
func (d *scene) noise(sd float64) float64 { return d.chance.NormFloat64() * sd }

// round is to the nearest step of an instrument, free of binary dust.
func round(v, step float64) float64 {
	parts := math.Round(1 / step)
	return math.Round(v*parts) / parts
}
