package demo

import (
	"time"

	"ojime/internal/bench"
	"ojime/internal/work/planning"
	"ojime/internal/work/printing"
	"ojime/internal/work/repeat"
)

// plates leaves plans on the bench: a full plate that outlasts its vat, a mixed
// one, one for the laser, and the numbered cells of the series in hand.
func (d *scene) plates() error {
	for _, p := range []struct {
		name, machine, resin string
		estimateS, fillML    float64
		lots                 []planning.Packing
	}{
		{"Warband for the weekend", "Harrow 6", "Fable Grey", 7300, 150, []planning.Packing{d.lot("Warden with staff", 12), d.lot("Spined wyrm", 2)}},
		{"Lanterns, a full plate", "Tern Mini", "Heron Blue", 0, 68, []planning.Packing{d.lot("Cage lantern", 12)}},
		{"Wyrms by laser", "Corvid L", "Fable Grey", 0, 180, []planning.Packing{d.lot("Spined wyrm", 8)}},
		{"Wardens in the sealed box", "Plover Box", "Fable Grey", 0, 150, []planning.Packing{d.lot("Warden with staff", 6)}},
	} {
		if _, err := d.lay(p.name, p.machine, p.resin, p.estimateS, p.fillML, p.lots); err != nil {
			return err
		}
	}
	all, err := d.work.DialIn.AllSeries(d.ctx)
	if err != nil {
		return err
	}
	_, err = d.work.DialIn.LaySeries(d.ctx, all[0].Series.ID, d.pieces["Step coupon"].Piece.ID)
	return err
}

func (d *scene) lot(piece string, copies int64) planning.Packing {
	return planning.Packing{PieceID: d.pieces[piece].Piece.ID, Copies: copies, ScalePct: 100}
}

func (d *scene) lay(name, machine, resin string, estimateS, fillML float64, lots []planning.Packing) (planning.PlateSheet, error) {
	profile, bottle := d.profiles[machine+resin], d.bottles[resin]
	draft := planning.PlateDraft{Plate: bench.Plate{
		Name: name, MachineID: d.machines[machine].Machine.ID, ProfileID: &profile.ID, BottleID: &bottle.ID, MarginMM: 2, SpacingMM: 2,
		DripML: 4, LiquidRatio: 1.06, Software: "Carver 1.4", VatFillML: &fillML,
	}}
	if estimateS > 0 {
		draft.Plate.SoftwareEstimateS = &estimateS
	}
	for _, lot := range lots {
		packed, err := d.work.Planning.PackPlate(d.ctx, draft, &lot)
		if err != nil {
			return planning.PlateSheet{}, err
		}
		draft.Placements = packed.Placements
	}
	sheet, err := d.work.Planning.SavePlate(d.ctx, draft)
	d.laid[name] = sheet
	return sheet, err
}

// atWork leaves one print running, begun forty minutes ago, and one prepared
// with its first items ticked.
func (d *scene) atWork() error {
	d.clock = d.present.Add(-42 * time.Minute)
	running, err := d.prepare("Wyrms by laser", "Corvid L", "Fable Grey", "a spine goes missing", 30)
	if err != nil {
		return err
	}
	for _, item := range []string{"vat", "vat_resin", "bottle", "debris", "fit", "film", "level", "light", "filter", "temperature", "clear", "caution"} {
		if _, err := d.work.Printing.Answer(d.ctx, running, bench.Preflight{Item: item, State: "ticked"}); err != nil {
			return err
		}
	}
	d.clock = d.present.Add(-40 * time.Minute)
	if _, err := d.work.Printing.Happen(d.ctx, running, bench.RunEvent{Kind: "start"}, false); err != nil {
		return err
	}
	d.clock = d.present.Add(-10 * time.Minute)
	waiting, err := d.prepare("Wardens in the sealed box", "Plover Box", "Fable Grey", "", 0)
	if err != nil {
		return err
	}
	for _, item := range []string{"vat", "debris"} {
		if _, err := d.work.Printing.Answer(d.ctx, waiting, bench.Preflight{Item: item, State: "ticked"}); err != nil {
			return err
		}
	}
	if err := d.onceMore(); err != nil {
		return err
	}
	d.clock = d.now
	return nil
}

// onceMore prepares the last print that gave nothing usable once more, with what was changed.
func (d *scene) onceMore() error {
	failed, err := d.work.Printing.Runs(d.ctx, printing.RunFilter{Shape: "ring", Most: 1})
	if err != nil || len(failed.Lines) == 0 {
		return err
	}
	d.clock = d.present.Add(-5 * time.Minute)
	_, err = d.work.Repeat.Print(d.ctx, failed.Lines[0].ID, repeat.Again{Change: "resin stirred, film wiped from below"})
	return err
}

func (d *scene) prepare(plate, machine, resin, prediction string, failPct float64) (runID string, err error) {
	sheet, profile, bottle := d.laid[plate], d.profiles[machine+resin], d.bottles[resin]
	p := printing.Preparation{MachineID: d.machines[machine].Machine.ID, PlateID: &sheet.Plate.ID, ProfileID: profile.ID, BottleID: &bottle.ID, Prediction: prediction}
	if failPct > 0 {
		p.PredictionFailPct = &failPct
	}
	run, err := d.work.Printing.Prepare(d.ctx, p)
	return run.Run.ID, err
}
