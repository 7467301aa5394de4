package demo

import (
	"encoding/json"
	"fmt"
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/work/printing"
)

// upkeep enters what surrounds the prints: baths and waste, reminders of which one
// is contradicted, a bottle on the scale, an upgrade that changed three things, and
// a failed plate that was washed, cured and judged in full.
func (d *scene) upkeep() error {
	d.clock = d.now.Add(-14 * 24 * time.Hour)
	ethanol, err := d.work.Upkeep.SaveBath(d.ctx, bathOf("First bath", "ethanol 95 %", 2000, 12))
	if err != nil {
		return err
	}
	if _, err := d.work.Upkeep.SaveBath(d.ctx, bathOf("Rinse", "water", 3000, 0)); err != nil {
		return err
	}
	for _, step := range []func() error{d.reminders, d.weigh, d.upgrade, func() error { return d.washed(ethanol.Bath.ID) }, d.ranDry, d.thrownAway, d.furtherSettings, d.whole, d.amended} {
		if err := step(); err != nil {
			return err
		}
	}
	return nil
}

func bathOf(name, solvent string, ml float64, life int64) bench.Bath {
	b := bench.Bath{Name: name, Solvent: solvent, VolumeML: &ml}
	if life > 0 {
		b.LifePrints = &life
	}
	return b
}

func (d *scene) reminders() error {
	harrow, tern := d.machines["Harrow 6"].Machine.ID, d.machines["Tern Mini"].Machine.ID
	for _, r := range []bench.Reminder{
		{MachineID: harrow, Kind: "filter", Every: 90, Unit: "days", Source: "maker", Note: "manual, page 31"},
		{MachineID: tern, Kind: "relevel", Every: 50, Unit: "days", Source: "own", Note: "the left side sinks"},
		{MachineID: tern, Kind: "film", Every: 200, Unit: "runs", Source: "maker", Note: "card in the box", Contradiction: "at 5 000 layers it is still clear"},
	} {
		if _, err := d.work.Upkeep.SaveReminder(d.ctx, r); err != nil {
			return err
		}
	}
	return d.knot("Harrow 6", "filter", "the one from the box")
}

func (d *scene) weigh() error {
	b := d.bottles["Madder Tough"]
	b.TareG = quantity.Ptr(118.0)
	b, err := d.work.Kit.SaveBottle(d.ctx, b)
	if err != nil {
		return err
	}
	d.bottles["Madder Tough"] = b
	_, err = d.work.Upkeep.HappenBottle(d.ctx, b.ID, bench.BottleEvent{Kind: "weighed", GrossG: quantity.Ptr(242.0)})
	return err
}

func (d *scene) upgrade() error {
	before := d.clock
	defer func() { d.clock = before }()
	d.clock = d.now.Add(-9 * 24 * time.Hour)
	_, err := d.work.Kit.AddEvent(d.ctx, bench.MachineEvent{MachineID: d.machines["Plover Box"].Machine.ID, AtMS: d.clock.UnixMilli(), Kinds: bench.IDs{"upgrade", "firmware", "film"},
		Note: "its maker's second edition", Changes: bench.Changes{
			{What: "lift", From: "one stage", To: "two stages", Undoable: true}, {What: "film type", From: "clear", To: "matt", Undoable: true}, {What: "firmware", From: "1.2", To: "2.0"}}})
	return err
}

// furtherSettings are made from those that were found: for tall pieces, and as one has
// come to use them.
func (d *scene) furtherSettings() error {
	slow := d.profiles["Harrow 6Fable Grey"]
	slow.ParentID, slow.Basis, slow.Name, slow.Note = &slow.ID, "adjusted", "slow lift for tall pieces", "after plates that let go midway"
	slow.Lift = bench.Moves{{MM: 4, MMMin: 40}, {MM: 4, MMMin: 120}}
	used := d.profiles["Tern MiniHeron Blue"]
	used.ParentID, used.Basis, used.Name, used.Note = &used.ID, "own", "as it has been used all winter", "no series was printed for it"
	for _, p := range []bench.Profile{slow, used} {
		p.ID, p.Code, p.Version, p.CreatedMS, p.SeriesID = "", "", 0, 0, nil
		if _, err := d.work.Kit.AddProfile(d.ctx, p); err != nil {
			return err
		}
	}
	return nil
}

// whole names the parts of one model that are printed apart.
func (d *scene) whole() error {
	_, err := d.work.Tally.SaveAssembly(d.ctx, bench.Assembly{Name: "Wyrm that guards a lantern", Note: "two prints, glued",
		Parts: bench.Parts{{PieceID: d.pieces["Spined wyrm"].Piece.ID, Copies: 1}, {PieceID: d.pieces["Cage lantern"].Piece.ID, Copies: 1}}})
	return err
}

// amended puts right what was written of the last print.
func (d *scene) amended() error {
	now, err := d.work.Printing.RunSheet(d.ctx, d.last.Run.ID)
	if err != nil {
		return err
	}
	r := now.Run
	_, err = d.work.Printing.AmendRun(d.ctx, r.ID, r.Version, json.RawMessage(`{"observed": "the lid had stood open in the sun"}`), "remembered the next morning", true)
	return err
}

// washed prints a plate on which the left side let go, and does to it what is done
// after a print.
func (d *scene) washed(bathID string) error {
	d.clock, d.judging = d.now.Add(-50*time.Hour), false
	defer func() { d.judging = true }()
	if err := d.printPlate("Warband of eight", "Harrow 6", "Fable Grey", d.lot("Warden with staff", 8)); err != nil {
		return err
	}
	page, err := d.work.Printing.Runs(d.ctx, printing.RunFilter{MachineID: d.machines["Harrow 6"].Machine.ID, Most: 1})
	if err != nil {
		return err
	}
	run := page.Lines[0].ID
	for _, s := range []struct {
		kind   string
		wait   time.Duration
		took   time.Duration
		effort int64
	}{{kind: "drip", took: 12 * time.Minute}, {kind: "wash", took: 190 * time.Second}, {kind: "dry", took: 25 * time.Minute}, {kind: "supports", took: 9 * time.Minute, effort: 3}, {kind: "cure", took: 170 * time.Second}} {
		step := bench.ProcessStep{Kind: s.kind, StartedMS: d.clock.UnixMilli(), EndedMS: quantity.Ptr(d.clock.Add(s.took).UnixMilli())}
		switch s.kind {
		case "wash":
			step.BathID = &bathID
		case "supports":
			step.How, step.Effort, step.Scars = "by hand, in warm water", &s.effort, "light"
		}
		if _, err := d.work.Aftercare.SaveStep(d.ctx, run, step); err != nil {
			return err
		}
		d.clock = d.clock.Add(s.took + 3*time.Minute)
	}
	return d.judgeLeft(run)
}

// judgeLeft loses two specimens on the left of a plate and nicks a third in
// taking supports off.
func (d *scene) judgeLeft(run string) error {
	sheet, err := d.work.Printing.RunSheet(d.ctx, run)
	if err != nil {
		return err
	}
	fell := false
	for i := range sheet.Specimens {
		s := &sheet.Specimens[i]
		switch {
		case *s.XMM < 40:
			s.Outcome, s.Defects = "lost", []bench.Defect{{Symptom: "let go midway", Origin: "printed", Fault: "machine", Severity: "grave", BeganLayer: quantity.Ptr[int64](140)}}
		case i == len(sheet.Specimens)-1:
			s.Outcome, s.Defects = "micro_defect", []bench.Defect{{Symptom: "visible layer line", Origin: "printed", Fault: "machine", Severity: "slight", BeganLayer: quantity.Ptr[int64](312)},
				{Symptom: "support scar", Origin: "supports", Fault: "operator", Severity: "slight"}}
		case !fell:
			fell = true
			s.Outcome, s.Defects = "lost", []bench.Defect{{Symptom: "broken in handling", Origin: "handling", Fault: "operator", Severity: "grave", Note: "fell off the rack"}}
		default:
			s.Outcome = "whole"
		}
	}
	_, err = d.work.Inspect.JudgeSpecimens(d.ctx, run, sheet.Specimens)
	return err
}

func (d *scene) thrownAway() error {
	for _, w := range []bench.Waste{
		{Kind: "scrap", Amount: 64, WentTo: "household waste, cured", Note: "supports and two lost wardens"},
		{Kind: "wipes", Amount: 18, WentTo: "hazardous waste point"},
		{Kind: "filter", Amount: 1, WentTo: "hazardous waste point", Note: "Harrow 6"},
	} {
		if _, err := d.work.Upkeep.AddWaste(d.ctx, w); err != nil {
			return err
		}
	}
	return nil
}

// ranDry is a print that was stopped when the vat had run dry: it failed, and took no
// time that means anything.
func (d *scene) ranDry() error {
	d.clock, d.judging = d.now.Add(-29*time.Hour), false
	defer func() { d.judging = true }()
	if err := d.printPlate("Wyrms that ran dry", "Tern Mini", "Heron Blue", d.lot("Spined wyrm", 2)); err != nil {
		return err
	}
	r := d.last.Run
	change := fmt.Sprintf(`{"ended_ms": %d, "ended_how": "stopped", "stopped_layer": 138}`, r.StartedMS+35*60*1000)
	sheet, err := d.work.Printing.AmendRun(d.ctx, r.ID, r.Version, json.RawMessage(change), "the vat had run dry", false)
	if err != nil {
		return err
	}
	for i := range sheet.Specimens {
		s := &sheet.Specimens[i]
		s.Outcome, s.Defects = "lost", []bench.Defect{{Symptom: "ran dry", Origin: "printed", Fault: "operator", Severity: "grave"}}
	}
	_, err = d.work.Inspect.JudgeSpecimens(d.ctx, r.ID, sheet.Specimens)
	return err
}
