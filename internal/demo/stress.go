package demo

import (
	"fmt"
	"math"
	"math/rand/v2"
	"strings"
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/coupon"
	"ojime/internal/core/quantity"
	corestress "ojime/internal/core/stress"
	"ojime/internal/work/inspect"
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
	req := stress.Request{Series: bench.StressSeries{Kind: kind.Key, Mode: corestress.Fresh, Name: "Lanterns let fall", Under: "onto a board of oak, let go upright by a hand", Stage: "primed",
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

// primed fills and sands what layer lines need, and primes the copies that are still there:
// those of the projector take longer.
func (d *scene) primed(runs []string) error {
	chance := rand.New(rand.NewPCG(61, 67))
	d.clock = d.clock.Add(30 * time.Hour)
	for _, id := range runs {
		sheet, err := d.work.Printing.RunSheet(d.ctx, id)
		if err != nil {
			return err
		}
		minutes := 4.0
		if sheet.Machine.Name == wheatear {
			minutes = 6.5
		}
		for _, s := range sheet.Specimens {
			if s.SetAside() || !s.Judged() {
				continue
			}
			took := math.Max(1, math.Round(2*(minutes+1.2*chance.NormFloat64()))/2)
			if _, err := d.work.Inspect.Reach(d.ctx, id, inspect.Stage{SpecimenIDs: []string{s.ID}, Stage: "primed", ReworkMin: &took, Note: "sanded with 400, two thin coats"}); err != nil {
				return err
			}
		}
	}
	return nil
}

// barsBent prints bars of two resins on one machine, and loads them on two rods; the resins
// are weighed, and their makers say what they say.
func (d *scene) barsBent() error {
	bar, err := d.work.DialIn.KeepCoupon(d.ctx, "Bar for bending", coupon.Params{BarMM: 3})
	if err != nil {
		return err
	}
	d.pieces["Bar for bending"] = bar
	stiff := map[string]float64{"Heron Blue": 2150, "Madder Tough": 1320}
	of, codes := map[string]string{}, []string{}
	for range 2 {
		for _, resin := range []string{"Heron Blue", "Madder Tough"} {
			d.clock = d.clock.Add(5 * time.Hour)
			if err := d.print(dunnock, resin, "Bar for bending", 2); err != nil {
				return err
			}
			codes, of[d.last.Run.Code] = append(codes, d.last.Run.Code), resin
		}
	}
	return d.load(codes, of, stiff)
}

// load takes the bars through their loads, each stiff as its resin and its print make it.
func (d *scene) load(codes []string, of map[string]string, stiff map[string]float64) error {
	chance := rand.New(rand.NewPCG(71, 73))
	kind, _ := corestress.KindOf(corestress.Stiffness)
	d.clock = d.clock.Add(26 * time.Hour)
	sheet, err := d.work.Stress.Begin(d.ctx, stress.Request{Codes: codes, Series: bench.StressSeries{Kind: kind.Key, Mode: corestress.Cumulative, Name: "Bars of blue and of tough", Under: "on two rods of 5 mm, read with the caliper", Stage: "cured",
		Levels: kind.Usual, SpanMM: quantity.Ptr(60.0)}})
	if err != nil {
		return err
	}
	print := map[string]float64{}
	bars := map[string][2]float64{}
	for _, m := range sheet.Members {
		if print[m.Run] == 0 {
			print[m.Run] = 1 + 0.03*chance.NormFloat64()
		}
		width, thick := round(10+0.02*chance.NormFloat64(), 0.01), round(3.02+0.02*chance.NormFloat64(), 0.01)
		bars[m.Code] = [2]float64{width, thick}
		if sheet, err = d.work.Stress.Weigh(d.ctx, sheet.Series.ID, m.ID, stress.Weighed{WidthMM: &width, ThicknessMM: &thick}); err != nil {
			return err
		}
	}
	for sheet.Next != nil {
		step := sheet.Steps[*sheet.Next]
		run := "R" + step.Code[1:len(step.Code)-3]
		section := 4 * bars[step.Code][0] * math.Pow(bars[step.Code][1], 3)
		mm := round(9.80665*step.Level/1000*math.Pow(60, 3)/(section*stiff[of[run]]*print[run])+0.01*chance.NormFloat64()+0.05, 0.01)
		d.clock = d.clock.Add(25 * time.Second)
		if sheet, err = d.work.Stress.Test(d.ctx, sheet.Series.ID, stress.Seen{SpecimenID: step.Specimen, Level: step.Level, DeflectionMM: &mm}); err != nil {
			return fmt.Errorf("load %s: %w", step.Code, err)
		}
	}
	return d.weighed()
}

// weighed puts both resins on the balance, and notes what their makers say.
func (d *scene) weighed() error {
	for _, r := range []struct {
		name   string
		g      []float64
		claims bench.Notes
	}{{"Heron Blue", []float64{10.88, 10.91, 10.86}, bench.Notes{"Crisp to 25 µm on every machine.", "No smell."}}, {"Madder Tough", []float64{11.21, 11.24, 11.19}, bench.Notes{"Survives falls from a table.", "Bends where others break."}}} {
		card := d.resins[r.name].Resin
		card.Claims = r.claims
		saved, err := d.work.Kit.SaveResin(d.ctx, card)
		if err != nil {
			return err
		}
		d.resins[r.name] = saved
		for _, g := range r.g {
			d.clock = d.clock.Add(time.Minute)
			if _, err := d.work.ResinCard.Weigh(d.ctx, card.ID, bench.ResinWeighing{MassG: g, VolumeML: 10, TempC: quantity.Ptr(22.0)}); err != nil {
				return err
			}
		}
	}
	return nil
}
