package demo

import (
	"math"
	"math/rand/v2"
	"time"

	"ojime/internal/bench"
	"ojime/internal/work/inspect"
)

// looks is how a machine's prints look to a rater, in steps of the usual scales: raw, and
// under primer, which fills what is fine.
var looks = map[string]map[string]map[string]float64{
	"raw":    {dunnock: {"edges": 3.1, "layer_lines": 2.9, "stepping": 2.6}, wheatear: {"edges": 1.7, "layer_lines": 2.4, "stepping": 2.3}, "": {"edges": 3.7, "layer_lines": 4, "stepping": 3.8}},
	"primed": {dunnock: {"edges": 2.6, "layer_lines": 3.1, "stepping": 2.8}, wheatear: {"edges": 2.4, "layer_lines": 2.9, "stepping": 2.7}},
}

// sittings has two people judge prints raw, or one of them again under primer; the
// reference is judged raw. What a print looks like shifts all of its copies alike.
func (d *scene) sittings(runs []string, reference, stage string) error {
	chance := rand.New(rand.NewPCG(29, 31))
	luck := map[string]float64{}
	for _, id := range runs {
		luck[id] = 0.3 * chance.NormFloat64()
	}
	for _, s := range []struct{ rater, stage, light string }{{"Marn", "raw", "a daylight lamp from the left"}, {"Oskil", "raw", "a daylight lamp from the left"}, {"Marn", "primed", "a daylight lamp from the left"}} {
		if s.stage != stage {
			continue
		}
		d.clock = d.clock.Add(20 * time.Hour)
		sitting, err := d.work.Inspect.BeginSitting(d.ctx, bench.Sitting{Rater: s.rater, Station: "in_hand", Stage: s.stage, Light: s.light, Scales: bench.IDs{"edges", "layer_lines", "stepping"}})
		if err != nil {
			return err
		}
		for _, id := range runs {
			sheet, err := d.work.Printing.RunSheet(d.ctx, id)
			if err != nil {
				return err
			}
			if err := d.judge(sitting, id, sheet.Machine.Name, sheet.Specimens, luck[id], chance); err != nil {
				return err
			}
		}
		if s.stage != "raw" {
			continue
		}
		made, err := d.work.Inspect.Reference(d.ctx, reference)
		if err != nil {
			return err
		}
		if err := d.judge(sitting, reference, "", made.Specimens, 0, chance); err != nil {
			return err
		}
	}
	return nil
}

// judge rates the copies of one print or reference that still have their detail.
func (d *scene) judge(sitting bench.Sitting, of, machine string, copies []bench.Specimen, luck float64, chance *rand.Rand) error {
	for _, p := range copies {
		if p.SetAside() || p.Outcome == "pending" {
			continue
		}
		for _, scale := range sitting.Scales {
			d.clock = d.clock.Add(20 * time.Second)
			score := math.Round(looks[sitting.Stage][machine][scale] + luck + 0.4*chance.NormFloat64())
			if _, err := d.work.Inspect.Rate(d.ctx, inspect.Score{SittingID: sitting.ID, OfID: of, SpecimenID: p.ID, Scale: scale, Score: int64(min(4, max(0, score)))}); err != nil {
				return err
			}
		}
	}
	return nil
}
