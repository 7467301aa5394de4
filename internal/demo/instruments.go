package demo

import (
	"math/rand/v2"
	"time"

	"ojime/internal/bench"
)

// gauged checks the caliper against a block and a pin, enters a balance, and has two people
// measure eight copies of a base three times each, in the drawn order: hands differ by a few
// micrometres, and each by itself by about a step of the caliper.
func (d *scene) gauged() error {
	chance := rand.New(rand.NewPCG(43, 47))
	for _, c := range []bench.InstrumentCheck{
		{Against: "gauge block 10 mm", TrueValue: 10, ShownValue: 10, Tolerance: 0.02},
		{Against: "pin 3 mm", TrueValue: 3, ShownValue: 3.01, Tolerance: 0.02},
	} {
		d.clock = d.clock.Add(time.Minute)
		if _, err := d.work.Instruments.CheckInstrument(d.ctx, d.instrument.ID, c); err != nil {
			return err
		}
	}
	balance, err := d.work.Instruments.SaveInstrument(d.ctx, bench.Instrument{Name: "Bench balance 2 kg", Kind: "balance"})
	if err != nil {
		return err
	}
	if _, err := d.work.Instruments.CheckInstrument(d.ctx, balance.ID, bench.InstrumentCheck{Against: "weight of 200 g", TrueValue: 200, ShownValue: 200.1, Tolerance: 0.5}); err != nil {
		return err
	}
	study, err := d.work.Instruments.BeginStudy(d.ctx, d.instrument.ID, bench.GaugeStudy{What: "width of the base", Parts: bench.Notes{"base 1", "base 2", "base 3", "base 4", "base 5", "base 6", "base 7", "base 8"},
		Operators: bench.Notes{"Marn", "Oskil"}, Repeats: 3})
	if err != nil {
		return err
	}
	width, hand := map[string]float64{}, map[string]float64{"Marn": 0, "Oskil": -0.008}
	for _, part := range study.Study.Parts {
		width[part] = 24 - 0.06 + 0.03*chance.NormFloat64()
	}
	for _, step := range study.Steps {
		d.clock = d.clock.Add(12 * time.Second)
		read := round(width[step.Part]+hand[step.Operator]+0.008*chance.NormFloat64(), 0.01)
		if _, err := d.work.Instruments.ReadStudy(d.ctx, study.Study.ID, read, true); err != nil {
			return err
		}
	}
	return nil
}
