package demo

import (
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/work/experiment"
)

// siskin is the machine on which several settings, and several resins, are compared.
const siskin = "Siskin 4"

// motion is a lift speed and a rest after it, with what they do to a print.
type motion struct {
	name       string
	liftMMMin  float64
	restS      float64
	failChance float64
}

// motions are three lift speeds by two rests; the fast lift with the short rest was never
// printed, so the two together cannot be told.
var motions = []motion{
	{"Slow, long rest", 45, 2, 0.02}, {"Slow, short rest", 45, 0.5, 0.04}, {"Middle, long rest", 90, 2, 0.05},
	{"Middle, short rest", 90, 0.5, 0.12}, {"Fast, long rest", 180, 2, 0.30},
}

// experiments prints what compares more than two: settings on one machine, and resins on
// one machine, each with a hole, an accident and a cold day.
func (d *scene) experiments() error {
	now := d.clock
	d.clock = now.Add(-48 * 24 * time.Hour)
	defer func() { d.clock = now }()
	d.judging = true
	if err := d.siskin(); err != nil {
		return err
	}
	if err := d.liftsAndRests(); err != nil {
		return err
	}
	if err := d.fiveResins(); err != nil {
		return err
	}
	return d.secondLift()
}

func (d *scene) siskin() error {
	m := d.machines["Harrow 6"].Machine
	m.ID, m.Code, m.Version, m.Name, m.Maker, m.SuppliedBy = "", "", 0, siskin, "Brindle Works", "bought by the reviewer"
	m.WidthMM, m.DepthMM, m.PxX, m.PxY = 153.36, 77.76, quantity.Ptr[int64](4260), quantity.Ptr[int64](2160)
	m.QuirkFaults, m.Notes = nil, ""
	card, err := d.work.Kit.SaveMachine(d.ctx, m)
	if err != nil {
		return err
	}
	d.machines[siskin] = card
	for _, r := range []bench.Resin{
		{Name: "Sorrel Clear", Maker: "Oakgall", Family: "standard", Colour: "#c9d3c0", DensityGML: quantity.Ptr(1.11), BottleML: quantity.Ptr(500.0), PriceList: 24, PriceTaxIncluded: true, StatedWashS: quantity.Ptr(180.0), StatedCureS: quantity.Ptr(180.0)},
		{Name: "Bistre Bend", Maker: "Lowfen", Family: "flexible", Colour: "#6b4a2f", DensityGML: quantity.Ptr(1.07), BottleML: quantity.Ptr(500.0), PriceList: 36, PriceTaxIncluded: true, StatedWashS: quantity.Ptr(180.0), StatedCureS: quantity.Ptr(90.0)},
	} {
		kept, err := d.work.Kit.SaveResin(d.ctx, r)
		if err != nil {
			return err
		}
		d.resins[r.Name] = kept
		opened := d.clock.AddDate(0, 0, -6).Format(time.DateOnly)
		if d.bottles[r.Name], err = d.work.Kit.SaveBottle(d.ctx, bench.Bottle{ResinID: kept.Resin.ID, Lot: "LOT " + r.Name[:1] + "118", OpenedOn: &opened}); err != nil {
			return err
		}
	}
	return nil
}

// liftsAndRests prints each motion three times, in a drawn order.
func (d *scene) liftsAndRests() error {
	settings := map[string]bench.Profile{}
	var first *string
	for _, m := range motions {
		p := bench.Profile{MachineID: d.machines[siskin].Machine.ID, ResinID: d.resins["Fable Grey"].Resin.ID, LayerUM: 50, ExposureS: quantity.Ptr(2.3), BottomLayers: quantity.Ptr[int64](5),
			BottomExposureS: quantity.Ptr(30.0), TransitionLayers: quantity.Ptr[int64](6), Antialiasing: "grey 4", Basis: "default", Name: m.name,
			Lift: bench.Moves{{MM: 6, MMMin: m.liftMMMin}}, Retract: bench.Moves{{MM: 6, MMMin: 180}}, WaitLiftS: &m.restS}
		if first != nil {
			p.Basis, p.ParentID = "adjusted", first
		}
		kept, err := d.work.Kit.AddProfile(d.ctx, p)
		if err != nil {
			return err
		}
		if settings[m.name] = kept; first == nil {
			first = &kept.ID
		}
	}
	for range 3 {
		for _, i := range d.chance.Perm(len(motions)) {
			m := motions[i]
			d.profiles[siskin+"Fable Grey"] = settings[m.name]
			d.trying = behaviour{bestS: 2.3, finestMM: 0.21, bloomMM: 0.02, shrinkPct: 0.24, failChance: m.failChance, biasFactor: 1.08}
			d.clock = d.clock.Add(19 * time.Hour)
			if err := d.print(siskin, "Fable Grey", "Cage lantern", 4); err != nil {
				return err
			}
		}
	}
	reviewed, err := d.review(bench.Review{Question: "Which lift and rest for thin bars?", Readers: "Owners of this machine who print cages and bars", UnderTest: bench.IDs{"motion"}, Policy: "same_settings",
		Disclosure: "The machine and the resin were bought by the reviewer.", NotTested: "The fast lift with the short rest, other resins, other pieces."},
		[]string{siskin}, []string{"Fable Grey"}, []string{"Cage lantern"})
	if err != nil {
		return err
	}
	// The hole is planned and waits to be printed.
	_, err = d.work.Experiment.KeepPlan(d.ctx, reviewed.ID, experiment.PlanRequest{Prints: 3, Copies: 4, Seed: quantity.Ptr(int64(118))})
	return err
}

// fiveResins prints the coupon in five resins at their makers' settings; on one day the
// room was cold, and one copy was dropped in washing.
func (d *scene) fiveResins() error {
	names := []string{"Fable Grey", "Heron Blue", "Madder Tough", "Sorrel Clear", "Bistre Bend"}
	finest := map[string]float64{"Fable Grey": 0.21, "Heron Blue": 0.23, "Madder Tough": 0.27, "Sorrel Clear": 0.30, "Bistre Bend": 0.34}
	for _, name := range names {
		exposure := map[string]float64{"Fable Grey": 2.3, "Heron Blue": 2.1, "Madder Tough": 2.9, "Sorrel Clear": 2.5, "Bistre Bend": 3.2}[name]
		if err := d.byDefault(siskin, name, exposure, "default"); err != nil {
			return err
		}
	}
	cold := ""
	for round := range 3 {
		for _, i := range d.chance.Perm(len(names)) {
			room := 0.0
			if round == 1 && names[i] == "Bistre Bend" {
				room = -6
			}
			d.trying = behaviour{bestS: 2.3, finestMM: finest[names[i]], bloomMM: 0.02, shrinkPct: 0.2 + 0.1*float64(i), failChance: 0.05, biasFactor: 1.08, roomC: room}
			d.clock = d.clock.Add(17 * time.Hour)
			if err := d.print(siskin, names[i], "Step coupon", 2); err != nil {
				return err
			}
			if room != 0 {
				cold = d.last.Run.ID
			}
			if round == 2 && names[i] == "Sorrel Clear" {
				if err := d.dropped(); err != nil {
					return err
				}
			}
		}
	}
	reviewed, err := d.review(bench.Review{Question: "Which of five resins for fine posts?", Readers: "People who choose a resin for small figures", UnderTest: bench.IDs{"resin"}, Policy: "maker_default",
		Disclosure: "All bottles were bought by the reviewer.", NotTested: "Strength, smell, other machines."},
		[]string{siskin}, names, []string{"Step coupon"}, bench.LeftOut{RunID: cold, Reason: "The heating was off that night; the room had 16 °C and the others 22."})
	if err != nil {
		return err
	}
	// The print in the cold room is to be made again, and waits.
	_, err = d.work.Experiment.KeepPlan(d.ctx, reviewed.ID, experiment.PlanRequest{Prints: 3, Copies: 2, Seed: quantity.Ptr(int64(211))})
	return err
}

// secondLift is an upgrade of one unit, with the same two pieces before and after it: it
// came with firmware, and its maker claims that a print takes seven tenths of the time.
func (d *scene) secondLift() error {
	settings := bench.Profile{MachineID: d.machines[siskin].Machine.ID, ResinID: d.resins["Fable Grey"].Resin.ID, LayerUM: 50, ExposureS: quantity.Ptr(2.3), BottomLayers: quantity.Ptr[int64](5),
		BottomExposureS: quantity.Ptr(30.0), TransitionLayers: quantity.Ptr[int64](6), Antialiasing: "grey 4", Basis: "default", Name: "As it came",
		Lift: bench.Moves{{MM: 6, MMMin: 60}}, Retract: bench.Moves{{MM: 6, MMMin: 180}}, WaitLiftS: quantity.Ptr(0.5)}
	for _, after := range []bool{false, true} {
		if after {
			d.clock = d.clock.Add(6 * time.Hour)
			if _, err := d.work.Kit.AddEvent(d.ctx, bench.MachineEvent{MachineID: d.machines[siskin].Machine.ID, AtMS: d.clock.UnixMilli(), Kinds: bench.IDs{"upgrade", "firmware"}, Note: "second lift arm",
				ClaimedTimePct: quantity.Ptr(70.0), Changes: bench.Changes{{What: "lift", From: "6 mm at 60 mm/min", To: "6 mm at 110 mm/min", Undoable: true}, {What: "firmware", From: "3.1", To: "4.0"}}}); err != nil {
				return err
			}
			settings.Name, settings.Lift = "Second lift arm", bench.Moves{{MM: 6, MMMin: 110}}
			settings.ParentID = quantity.Ptr(settings.ID)
		}
		settings.ID, settings.Code, settings.Version, settings.CreatedMS = "", "", 0, 0
		kept, err := d.work.Kit.AddProfile(d.ctx, settings)
		if err != nil {
			return err
		}
		settings, d.profiles[siskin+"Fable Grey"] = kept, kept
		d.trying = behaviour{bestS: 2.3, finestMM: 0.21, bloomMM: 0.02, shrinkPct: 0.24, failChance: 0.06, biasFactor: 1.06}
		for range 3 {
			for copies, piece := range []string{1: "Spined wyrm", 3: "Warden with staff"} {
				if piece == "" {
					continue
				}
				d.clock = d.clock.Add(14 * time.Hour)
				if err := d.print(siskin, "Fable Grey", piece, int64(copies)); err != nil {
					return err
				}
			}
		}
	}
	return nil
}

// dropped is an accident in washing to the first copy of the last print, broken one with
// the cutters.
func (d *scene) dropped() error {
	return d.accident(bench.Defect{Symptom: "broken in handling", Origin: "wash", Fault: "operator", Severity: "grave", Note: "slipped from the tongs"})
}

func (d *scene) broken() error {
	return d.accident(bench.Defect{Symptom: "broken in handling", Origin: "removal", Fault: "operator", Severity: "grave", Note: "the cutters took a bar with the support"})
}

func (d *scene) accident(to bench.Defect) error {
	sheet, err := d.work.Printing.RunSheet(d.ctx, d.last.Run.ID)
	if err != nil {
		return err
	}
	s := sheet.Specimens[0]
	s.Outcome, s.Defects = "lost", []bench.Defect{to}
	_, err = d.work.Inspect.JudgeSpecimens(d.ctx, sheet.Run.ID, []bench.Specimen{s})
	return err
}

// review states a review of machines, resins and pieces by their names, and what it
// leaves out.
func (d *scene) review(r bench.Review, machines, resins, pieces []string, leftOut ...bench.LeftOut) (bench.Review, error) {
	for _, name := range machines {
		r.MachineIDs = append(r.MachineIDs, d.machines[name].Machine.ID)
	}
	for _, name := range resins {
		r.ResinIDs = append(r.ResinIDs, d.resins[name].Resin.ID)
	}
	for _, name := range pieces {
		r.PieceIDs = append(r.PieceIDs, d.pieces[name].Piece.ID)
	}
	saved, err := d.work.Reviews.SaveReview(d.ctx, r)
	for _, o := range leftOut {
		if err == nil {
			saved, err = d.work.Reviews.LeaveOut(d.ctx, saved.ID, o)
		}
	}
	return saved, err
}
