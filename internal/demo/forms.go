package demo

import (
	"math/rand/v2"
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/metrology"
	"ojime/internal/work/printing"
)

// formed measures the round rim, the foot and a thread on the lanterns of both machines: the
// projector's are rounder, the masked machine's feet wider.
func (d *scene) formed(runs []string) error {
	chance := rand.New(rand.NewPCG(79, 83))
	piece := d.pieces["Cage lantern"].Piece
	for _, f := range []bench.Form{{Kind: metrology.Round, Name: "Plinth, upper rim", Place: "just below the cage"}, {Kind: metrology.Foot, Name: "Foot of the plinth"}, {Kind: metrology.Thread, Name: "Hole for a rod of M2", Place: "in the roof"},
		{Kind: metrology.Fit, Name: "Sockets of the roof", RungsMM: bench.Sizes{0.05, 0.1, 0.15, 0.2}}} {
		if _, err := d.work.Kit.AddForm(d.ctx, piece.ID, f); err != nil {
			return err
		}
	}
	for _, id := range runs {
		sheet, err := d.work.Printing.RunSheet(d.ctx, id)
		if err != nil {
			return err
		}
		round, foot := 0.03, 0.16
		if sheet.Machine.Name == wheatear {
			round, foot = 0.015, 0.09
		}
		for _, s := range sheet.Specimens {
			if s.PieceID != piece.ID || s.SetAside() || !s.Judged() {
				continue
			}
			if err := d.form(sheet, s, round, foot, chance); err != nil {
				return err
			}
		}
	}
	return nil
}

// form reads the forms of one lantern.
func (d *scene) form(sheet printing.RunSheet, s bench.Specimen, oval, foot float64, chance *rand.Rand) error {
	for _, f := range sheet.Forms {
		if f.Kind == metrology.Fit {
			if err := d.fit(sheet, s, f, foot/3, chance); err != nil {
				return err
			}
			continue
		}
		r := bench.FormReading{SpecimenID: s.ID, FormID: f.ID}
		across := 22 - 0.05 + 0.01*chance.NormFloat64()
		switch f.Kind {
		case metrology.Round:
			r.InstrumentID = &d.instrument.ID
			for _, turn := range []float64{0, 1, 0.4} {
				r.Measured = append(r.Measured, round(across+turn*oval+0.008*chance.NormFloat64(), 0.01))
			}
		case metrology.Foot:
			r.InstrumentID = &d.instrument.ID
			r.Measured = bench.Sizes{round(across+foot+0.02*chance.NormFloat64(), 0.01), round(across, 0.01)}
		default:
			r.Mate, r.State = "steel rod M2", []string{"goes", "goes", "goes", "binds"}[chance.IntN(4)]
		}
		d.clock = d.clock.Add(30 * time.Second)
		if _, err := d.work.Inspect.ReadForm(d.ctx, sheet.Run.ID, r, true); err != nil {
			return err
		}
	}
	return nil
}

// fit tries two pegs of a gauge in all sockets of one lantern: outlines grow by closer mm a
// side, and the second peg is 0.04 mm thicker than the first.
func (d *scene) fit(sheet printing.RunSheet, s bench.Specimen, f bench.Form, closer float64, chance *rand.Rand) error {
	for _, peg := range []struct {
		name    string
		thicker float64
	}{{"gauge peg 3.00", 0}, {"gauge peg 3.04", 0.04}} {
		r := bench.FormReading{SpecimenID: s.ID, FormID: f.ID, Mate: peg.name}
		for _, clearance := range f.RungsMM {
			outcome := "loose"
			switch left := clearance - peg.thicker - closer + 0.012*chance.NormFloat64(); {
			case left < 0.02:
				outcome = "no"
			case left < 0.06:
				outcome = "tight"
			case left < 0.12:
				outcome = "holds"
			}
			r.Rungs = append(r.Rungs, metrology.FitRung{RungMM: clearance, Outcome: outcome})
		}
		d.clock = d.clock.Add(time.Minute)
		if _, err := d.work.Inspect.ReadForm(d.ctx, sheet.Run.ID, r, true); err != nil {
			return err
		}
	}
	return nil
}
