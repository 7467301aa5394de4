package demo

import (
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/work/experiment"
)

// dunnock draws through a panel, wheatear projects its light.
const (
	dunnock  = "Dunnock 5"
	wheatear = "Wheatear P"
)

// twoMachines compares a masked machine and a projector with three pieces in two resins;
// two of the pieces share their plates. The coupon was not printed in one resin on one
// machine, the last round of one stood in the cold, and a copy was lost to the cutters.
func (d *scene) twoMachines() error {
	now := d.clock
	d.clock = now.Add(-34 * 24 * time.Hour)
	defer func() { d.clock = now }()
	d.judging = true
	if err := d.maskedAndProjector(); err != nil {
		return err
	}
	machines, resins := []string{dunnock, wheatear}, []string{"Heron Blue", "Madder Tough"}
	for round := range 3 {
		if err := d.roundOfBoth(round, machines, resins); err != nil {
			return err
		}
	}
	milled, err := d.milledCoupon()
	if err != nil {
		return err
	}
	if err := d.gauged(); err != nil {
		return err
	}
	for _, step := range []func() error{
		func() error { return d.sittings(d.ofBoth, milled, "raw") }, func() error { return d.photographed(d.ofBoth, milled, "raw") },
		func() error { return d.formed(d.ofBoth) }, func() error { return d.primed(d.ofBoth) },
		func() error { return d.sittings(d.ofBoth, milled, "primed") }, func() error { return d.photographed(d.ofBoth, milled, "primed") },
		func() error { return d.letFall(d.ofBoth) }, d.barsBent, d.livedWith,
	} {
		if err := step(); err != nil {
			return err
		}
	}
	reviewed, err := d.review(bench.Review{Question: "Panel or projector for bars and spines, in blue or in tough?", Readers: "People who choose between two machines of one price", UnderTest: bench.IDs{"machine", "resin"}, Policy: "maker_default",
		Disclosure: dunnock + " was bought by the reviewer; " + wheatear + " is lent by its maker until the spring.", NotTested: "Other resins, other layer heights, full plates, wear.", ReferenceIDs: bench.IDs{milled}},
		machines, resins, []string{"Step coupon", "Cage lantern", "Spined wyrm"})
	if err != nil {
		return err
	}
	// The coupon that is missing is planned and waits to be printed.
	if _, err = d.work.Experiment.KeepPlan(d.ctx, reviewed.ID, experiment.PlanRequest{Prints: 3, Copies: 2, Seed: quantity.Ptr(int64(407))}); err != nil {
		return err
	}
	if err := d.judgedBlind(reviewed.ID); err != nil {
		return err
	}
	return d.publishes(reviewed.ID)
}

func (d *scene) maskedAndProjector() error {
	masked := d.machines["Harrow 6"].Machine
	masked.ID, masked.Code, masked.Version, masked.Name, masked.Maker, masked.SuppliedBy = "", "", 0, dunnock, "Lowgate", "bought by the reviewer"
	masked.WidthMM, masked.DepthMM, masked.PxX, masked.PxY = 143.43, 89.6, quantity.Ptr[int64](4098), quantity.Ptr[int64](2560)
	masked.PriceList, masked.PriceExtras, masked.QuirkFaults, masked.Notes = quantity.Ptr(419.0), 0, nil, ""
	projector := masked
	projector.Name, projector.Maker, projector.SuppliedBy, projector.LightEngine = wheatear, "Ninefold", "lent by its maker until the spring", "projector"
	projector.WidthMM, projector.DepthMM, projector.PxX, projector.PxY = 126.4, 71.1, quantity.Ptr[int64](2560), quantity.Ptr[int64](1440)
	projector.LightPrice, projector.LightLifeH, projector.PriceList, projector.IrradianceMWCM2, projector.ClaimedMMH = quantity.Ptr(240.0), quantity.Ptr(20000.0), quantity.Ptr(489.0), quantity.Ptr(5.1), quantity.Ptr(45.0)
	for _, m := range []bench.Machine{masked, projector} {
		card, err := d.work.Kit.SaveMachine(d.ctx, m)
		if err != nil {
			return err
		}
		d.machines[m.Name] = card
	}
	for _, p := range []struct {
		machine, resin string
		exposure       float64
	}{{dunnock, "Heron Blue", 2.4}, {dunnock, "Madder Tough", 3}, {wheatear, "Heron Blue", 1.6}, {wheatear, "Madder Tough", 2}} {
		if err := d.byDefault(p.machine, p.resin, p.exposure, "default"); err != nil {
			return err
		}
	}
	return nil
}

// roundOfBoth prints each machine's plates once, in a drawn order.
func (d *scene) roundOfBoth(round int, machines, resins []string) error {
	for _, i := range d.chance.Perm(len(machines) * len(resins)) {
		machine, resin := machines[i/len(resins)], resins[i%len(resins)]
		d.trying = behaviour{bestS: 2.2, finestMM: 0.2, bloomMM: 0.02, shrinkPct: 0.25, failChance: 0.05, biasFactor: 1.06, blemish: "visible layer line"}
		if machine == wheatear {
			d.trying = behaviour{bestS: 1.5, finestMM: 0.26, bloomMM: 0.012, shrinkPct: 0.2, failChance: 0.05, biasFactor: 1.12, blemish: "surface haze"}
			if round == 2 {
				d.trying.roomC = -5
			}
		}
		if resin == "Madder Tough" {
			d.trying.finestMM *= 1.25
			d.trying.shrinkPct += 0.15
		}
		if machine != wheatear || resin != "Madder Tough" {
			d.clock = d.clock.Add(15 * time.Hour)
			if err := d.print(machine, resin, "Step coupon", 2); err != nil {
				return err
			}
			d.ofBoth = append(d.ofBoth, d.last.Run.ID)
			if round == 1 && machine == wheatear {
				if err := d.clocked("Step coupon"); err != nil {
					return err
				}
				if err := d.levelled(d.machines[wheatear].Machine.ID); err != nil {
					return err
				}
			}
			if round == 2 && machine == wheatear {
				if err := d.laySliced("Step coupon"); err != nil {
					return err
				}
			}
		}
		d.clock = d.clock.Add(15 * time.Hour)
		if err := d.printPlate("Lanterns and a wyrm", machine, resin, d.lot("Cage lantern", 2), d.lot("Spined wyrm", 1)); err != nil {
			return err
		}
		d.ofBoth = append(d.ofBoth, d.last.Run.ID)
		if round == 1 && machine == dunnock && resin == "Heron Blue" {
			if err := d.broken(); err != nil {
				return err
			}
		}
	}
	return nil
}

// milledCoupon is a reference: the step coupon as a workshop milled it, read with the same
// caliper.
func (d *scene) milledCoupon() (string, error) {
	card := d.pieces["Step coupon"]
	made, err := d.work.Inspect.SaveReference(d.ctx, bench.Reference{Name: "Milled coupon", PieceID: card.Piece.ID, MadeBy: "another_process", Copies: 2, Surface: quantity.Ptr("raw"),
		Provenance: "Two coupons that the workshop by the canal milled of brass from the same file, with a cutter of 0.4 mm."})
	if err != nil {
		return "", err
	}
	milled := behaviour{finestMM: 0.33, bloomMM: 0.004}
	var readings []bench.ReferenceReading
	for _, s := range made.Specimens {
		for _, f := range made.Features {
			for _, r := range d.read(s, f, milled) {
				readings = append(readings, bench.ReferenceReading{Copy: s.Copy, FeatureID: r.FeatureID, InstrumentID: r.InstrumentID, ValueMM: r.ValueMM, RungMM: r.RungMM, Intact: r.Intact, State: r.State})
			}
		}
	}
	_, err = d.work.Inspect.ReadReference(d.ctx, made.Reference.ID, readings, true)
	return made.Reference.ID, err
}
