package compare

import (
	"fmt"
	"slices"
	"strings"

	"ojime/internal/core/audit"
	"ojime/internal/core/contest"
	"ojime/internal/core/detail"
	"ojime/internal/core/evidence"
	"ojime/internal/core/quantity"
	"ojime/internal/core/setup"
	"ojime/internal/say"
	"ojime/internal/work/kit"
	"ojime/internal/work/side"
	"ojime/internal/work/task"
)

// Threshold is a ladder over the sides: how many of each size held, over all copies.
type Threshold struct {
	Feature string          `json:"feature"`
	Sides   []ThresholdSide `json:"sides"`
}

// ThresholdSide is a ladder on one side, with the size at which half hold, in mm and, where
// the machine has a pitch, in its pixels.
type ThresholdSide struct {
	Rungs     []detail.Rung      `json:"rungs"`
	D50MM     *float64           `json:"d50_mm"`
	D50CIMM   *quantity.Interval `json:"d50_ci_mm"`
	D50Pixels *float64           `json:"d50_pixels"`
}

func (t *table) ladders() error {
	for _, f := range t.features {
		if f.Kind != "pins" && f.Kind != "gaps" {
			continue
		}
		sides := make([]evidence.NestedSide, len(t.sides))
		ladders := make([]*setup.Ladder, len(t.sides))
		if err := task.Abreast(len(t.sides), func(i int) error {
			if prints := t.sides[i].Of(f.ID).Ladder(); len(prints) > 0 {
				l := setup.LadderOf(prints)
				ladders[i], sides[i] = &l, ownSmallest(l)
			}
			return nil
		}); err != nil {
			return err
		}
		m, err := contest.Lengths("ladder "+f.ID, t.label(f, ": smallest that is whole in all copies of a print"), sides, 0, t.pairs)
		if err != nil {
			return err
		}
		of := Threshold{Feature: t.label(f, ""), Sides: make([]ThresholdSide, len(ladders))}
		for i, l := range ladders {
			of.Sides[i] = threshold(t.sides[i], l)
			note(&m.Sides[i], of.Sides[i], l)
		}
		if slices.ContainsFunc(ladders, func(l *setup.Ladder) bool { return l != nil }) {
			t.add(m, audit.Detail)
			t.thresholds = append(t.thresholds, of)
		}
	}
	return nil
}

// ownSmallest are the prints' own smallest sizes; none where a print has no whole size,
// since leaving it out would flatter the side.
func ownSmallest(l setup.Ladder) (s evidence.NestedSide) {
	s.Instrument.ResolutionMM = l.StepMM
	for _, v := range l.SmallestMM {
		if v == nil {
			return evidence.NestedSide{}
		}
		s.Prints = append(s.Prints, evidence.NestedPrint{Specimens: []evidence.NestedSpecimen{{ValuesMM: []float64{*v}}}})
	}
	return s
}

// note says the threshold over all copies beside a side's own smallest sizes.
func note(e *contest.Estimate, of ThresholdSide, l *setup.Ladder) {
	if l == nil {
		return
	}
	e.Specimens, e.Readings = 0, 0 // a print's own size is of all its copies together
	if e.Value == nil {
		e.Note = "In a print not even the largest size is whole in all copies."
	}
	if of.D50MM != nil {
		words := fmt.Sprintf(" Half hold at %s mm", say.Figure(*of.D50MM))
		if of.D50CIMM != nil {
			words += fmt.Sprintf(" (%s)", say.Interval(of.D50CIMM[0], of.D50CIMM[1], "mm"))
		}
		if of.D50Pixels != nil {
			words += fmt.Sprintf(", %s pixels", say.Figure(*of.D50Pixels))
		}
		e.Note = strings.TrimSpace(e.Note + words + ".")
	}
}

// threshold is a ladder as it is drawn; pixels where the machine has them.
func threshold(s side.Prints, l *setup.Ladder) (out ThresholdSide) {
	out.Rungs = []detail.Rung{}
	if l == nil {
		return out
	}
	out.Rungs, out.D50MM, out.D50CIMM = l.Rungs, l.D50MM, l.D50CIMM
	if pitchUM, pitch, err := kit.DotUM(s.Machine); l.D50MM != nil && err == nil && pitch != nil {
		out.D50Pixels = quantity.Ptr(1000 * *l.D50MM / pitchUM)
	}
	return out
}
