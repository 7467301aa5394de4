package demo

import (
	"math"
	"slices"
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/work/printing"
)

// inspect judges a plate and reads its specimens, after washing.
func (d *scene) inspect(sheet printing.RunSheet, b behaviour) error {
	d.clock = d.clock.Add(90 * time.Minute)
	cold := max(0, 23-quantity.Or(sheet.Run.ResinTempC, 23)) * 0.03
	outcomes := sheet.Specimens
	for i := range outcomes {
		draw := d.chance.Float64()
		o := &outcomes[i]
		switch {
		case draw < b.failChance+cold:
			defect := bench.Defect{Symptom: bench.Symptoms[d.chance.IntN(5)], Origin: "printed", Fault: "machine", Severity: "grave"}
			if d.chance.IntN(3) == 0 {
				defect.Fault = "operator"
			}
			o.Outcome, o.Defects = "lost", []bench.Defect{defect}
		case draw < 2.6*(b.failChance+cold):
			o.Outcome, o.Defects = "micro_defect", []bench.Defect{{Symptom: "thin part missing", Origin: "printed", Fault: "unknown", Severity: "slight"}}
		case b.blemish != "" && draw > 0.75:
			o.Outcome, o.Defects = "micro_defect", []bench.Defect{{Symptom: b.blemish, Origin: "printed", Fault: "unknown", Severity: "slight"}}
		default:
			o.Outcome = "whole"
		}
	}
	sheet, err := d.work.Inspect.JudgeSpecimens(d.ctx, sheet.Run.ID, outcomes)
	if err != nil {
		return err
	}
	if err := d.remedy(sheet); err != nil {
		return err
	}
	for _, s := range sheet.Specimens {
		if s.SetAside() {
			continue
		}
		var readings []bench.Reading
		for _, f := range sheet.Features {
			if f.PieceID != s.PieceID {
				continue
			}
			readings = append(readings, d.read(s, f, b)...)
		}
		d.clock = d.clock.Add(6 * time.Minute)
		if _, err := d.work.Inspect.RecordReadings(d.ctx, sheet.Run.ID, readings, true); err != nil {
			return err
		}
	}
	return nil
}

// remedy tries the likeliest cause of a lost copy after every second plate that lost one;
// after the others the reviewer just prints on.
func (d *scene) remedy(sheet printing.RunSheet) error {
	lost := slices.IndexFunc(sheet.Specimens, func(s bench.Specimen) bool { return s.Outcome == "lost" && len(s.Defects) > 0 })
	if lost < 0 {
		return nil
	}
	if d.lossy++; d.lossy%2 == 0 {
		return nil
	}
	symptom := sheet.Specimens[lost].Defects[0].Symptom
	why, err := d.work.Diagnosis.Diagnose(d.ctx, sheet.Run.ID, symptom)
	if err != nil || len(why.Result.Causes) == 0 {
		return err
	}
	first := why.Result.Causes[0]
	_, err = d.work.Diagnosis.Try(d.ctx, sheet.Run.ID, bench.Remedy{Symptom: symptom, Cause: first.Cause, Note: first.Remedy})
	return err
}

// read takes the readings of one feature of a specimen.
func (d *scene) read(s bench.Specimen, f bench.Feature, b behaviour) []bench.Reading {
	var out []bench.Reading
	switch f.Kind {
	case "dimension":
		sign := 1.0
		if *f.Face == "inner" {
			sign = -1
		}
		size := *f.NominalMM*(1-b.shrinkPct/100) + sign*b.bloomMM
		for range 2 {
			out = append(out, bench.Reading{SpecimenID: s.ID, FeatureID: f.ID, InstrumentID: &d.instrument.ID, ValueMM: quantity.Ptr(round(size+d.noise(0.012), 0.01))})
		}
	case "pins", "gaps":
		for _, rung := range f.RungsMM {
			holds := 1 / (1 + math.Exp(-9*math.Log(rung/b.finestMM)))
			out = append(out, bench.Reading{SpecimenID: s.ID, FeatureID: f.ID, RungMM: quantity.Ptr(rung), Intact: quantity.Ptr(d.chance.Float64() < holds)})
		}
	case "checkpoint":
		state := "present"
		if s.Outcome == "micro_defect" && d.chance.IntN(2) == 0 {
			state = "missing"
		}
		out = append(out, bench.Reading{SpecimenID: s.ID, FeatureID: f.ID, State: &state})
	}
	return out
}

// verdict states the review and, at the end, what it found.
func (d *scene) verdict() error {
	_, err := d.work.Reviews.SaveReview(d.ctx, bench.Review{
		Question: "Which of these two for a 32 mm warband?", Readers: "People who print small armies at home and paint them",
		UnderTest: bench.IDs{"machine"}, Policy: "each_calibrated",
		Disclosure: "Harrow 6 was bought by the reviewer; Tern Mini is lent by its maker and goes back. Nobody saw the text before it was published.",
		Verdict: "For fine detail the Harrow 6 draws smaller posts and slots on this coupon. The failure counts do not yet settle which is the more reliable, " +
			"so price and room on the desk may decide.",
		NotTested:  "Long-term wear, other layer heights, software of other makers, flexible resins.",
		MachineIDs: bench.IDs{d.machines["Harrow 6"].Machine.ID, d.machines["Tern Mini"].Machine.ID},
		ResinIDs:   bench.IDs{d.resins["Fable Grey"].Resin.ID},
		PieceIDs:   bench.IDs{d.pieces["Step coupon"].Piece.ID, d.pieces["Warden with staff"].Piece.ID},
	})
	return err
}
