package demo

import "ojime/internal/bench"

// livedWith says what two people found of living with the panel and the projector. The
// projector is the quieter one, and harder to clean.
func (d *scene) livedWith() error {
	heat, err := d.work.FirstDays.DefineMachineScale(d.ctx, bench.OwnScale{Name: "Heat on the bench", Conditions: "after how long a print",
		Anchors: bench.Notes{"too hot to touch", "warms what stands near", "warm to the hand", "hardly warm", "cool"}})
	if err != nil {
		return err
	}
	for _, r := range []struct {
		machine, scale    string
		score             int64
		rater, conditions string
	}{
		{dunnock, "noise", 1, "Marn", "at 1 m in the spare room"}, {wheatear, "noise", 3, "Marn", "at 1 m in the spare room"},
		{dunnock, "noise", 2, "Oskil", "at 1 m in the spare room"}, {wheatear, "noise", 3, "Oskil", "at 1 m in the spare room"},
		{dunnock, "lid", 3, "Marn", ""}, {wheatear, "lid", 1, "Marn", ""},
		{dunnock, "vat", 2, "Marn", ""}, {wheatear, "vat", 2, "Marn", ""}, {wheatear, "vat", 3, "Oskil", ""},
		{dunnock, "cleaning", 3, "Marn", ""}, {wheatear, "cleaning", 1, "Marn", ""},
		{wheatear, "manual", 4, "Oskil", ""},
		{dunnock, heat.Key, 3, "Marn", "after six hours"}, {wheatear, heat.Key, 1, "Marn", "after six hours"},
	} {
		_, err := d.work.FirstDays.RateMachine(d.ctx, d.machines[r.machine].Machine.ID, bench.MachineRating{Scale: r.scale, Score: r.score, Rater: r.rater, Conditions: r.conditions})
		if err != nil {
			return err
		}
	}
	for _, r := range []struct {
		machine string
		remark  bench.Remark
	}{
		{"Harrow 6", bench.Remark{Kind: "annoyance", About: "lid", What: "it has to be lifted off whole, and there is no place to lay it", Often: "every_print", Weight: 3, ForWhom: "small benches", Rater: "Marn"}},
		{"Harrow 6", bench.Remark{Kind: "pleasure", About: "screws and plate", What: "one lever frees the plate", Often: "every_print", Weight: 2, Rater: "Marn"}},
		{"Tern Mini", bench.Remark{Kind: "annoyance", About: "spout and pouring", What: "the vat has no spout; resin runs down its side", Often: "often", Weight: 4, Rater: "Marn"}},
	} {
		if _, err := d.work.FirstDays.Remark(d.ctx, d.machines[r.machine].Machine.ID, r.remark); err != nil {
			return err
		}
	}
	return nil
}
