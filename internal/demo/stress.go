package demo

import (
	"fmt"
	"math"
	"math/rand/v2"
	"strings"
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	corestress "ojime/internal/core/stress"
	"ojime/internal/work/stress"
)

// bears is the height in mm from which half of the lanterns of a resin break in the
// simulation.
var bears = map[string]float64{"Heron Blue": 420, "Madder Tough": 1050}

// letFall lets every lantern of the two machines fall once onto a board of oak, from four
// heights that chance deals: the prints differ by luck of their own.
func (d *scene) letFall(runs []string) error {
	chance := rand.New(rand.NewPCG(53, 59))
	kind, _ := corestress.KindOf(corestress.Drop)
	req := stress.Request{Series: bench.StressSeries{Kind: kind.Key, Mode: corestress.Fresh, Name: "Lanterns let fall", Under: "onto a board of oak, let go upright by a hand", Stage: "cured",
		Levels: kind.Usual, Anchors: kind.Anchors[:], FailsFrom: kind.FailsFrom}}
	resin, luck := map[string]string{}, map[string]float64{}
	for _, id := range runs {
		sheet, err := d.work.Printing.RunSheet(d.ctx, id)
		if err != nil {
			return err
		}
		luck[sheet.Run.Code] = math.Exp(0.15 * chance.NormFloat64())
		for _, s := range sheet.Specimens {
			if s.PieceID == d.pieces["Cage lantern"].Piece.ID && !s.SetAside() && s.Outcome != "lost" {
				req.Codes, resin[s.Code] = append(req.Codes, s.Code), sheet.Resin.Name
			}
		}
	}
	d.clock = d.clock.Add(20 * time.Hour)
	sheet, err := d.work.Stress.Begin(d.ctx, req)
	if err != nil {
		return err
	}
	for _, m := range sheet.Members {
		d.clock = d.clock.Add(15 * time.Second)
		if sheet, err = d.work.Stress.Weigh(d.ctx, sheet.Series.ID, m.ID, stress.Weighed{MassG: quantity.Ptr(round(1.84+0.02*chance.NormFloat64(), 0.01))}); err != nil {
			return err
		}
	}
	for sheet.Next != nil {
		step := sheet.Steps[*sheet.Next]
		run := "R" + strings.TrimPrefix(step.Code, "S")[:4]
		harm := 3 + 2.2*math.Log(step.Level/(bears[resin[step.Code]]*luck[run])) + 0.5*chance.NormFloat64()
		damage := int64(min(4, max(0, math.Round(harm-0.5))))
		seen := stress.Seen{SpecimenID: step.Specimen, Level: step.Level, Damage: &damage}
		if damage >= kind.FailsFrom {
			seen.Part = []string{"ring", "ring", "a bar of the cage", "foot"}[chance.IntN(4)]
		}
		d.clock = d.clock.Add(40 * time.Second)
		if sheet, err = d.work.Stress.Test(d.ctx, sheet.Series.ID, seen); err != nil {
			return fmt.Errorf("let %s fall: %w", step.Code, err)
		}
	}
	return nil
}
