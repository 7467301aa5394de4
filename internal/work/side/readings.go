package side

import (
	"cmp"
	"slices"

	"ojime/internal/bench"
	"ojime/internal/core/detail"
	"ojime/internal/core/evidence"
	"ojime/internal/core/quantity"
	"ojime/internal/core/setup"
	"ojime/internal/work/printing"
	"ojime/internal/work/task"
)

// Readings are what was read of a side in one feature, print by print and copy by copy, of copies that count.
type Readings [][]printing.CopyReadings

// Of are the readings of a side in a feature.
func (s Prints) Of(featureID string) Readings {
	out := make(Readings, len(s.Sheets))
	for i, sheet := range s.Sheets {
		out[i] = sheet.ByFeature()[featureID]
	}
	return out
}

// Nested are sizes by print, specimen and reading, with the instrument where it was one,
// else the coarsest and none that is known; on are the prints that were read.
func (s Prints) Nested(prints Readings) (out evidence.NestedSide, on []int) {
	tools := task.ByID(s.Measured.Instruments, func(i bench.Instrument) string { return i.ID })
	var used []string
	for i, print := range prints {
		var p evidence.NestedPrint
		for _, specimen := range print {
			var values []float64
			for _, r := range specimen.Readings {
				if r.ValueMM == nil {
					continue
				}
				values = append(values, *r.ValueMM)
				if id := quantity.Or(r.InstrumentID, ""); !slices.Contains(used, id) {
					used = append(used, id)
					out.Instrument.ResolutionMM = max(out.Instrument.ResolutionMM, tools[id].ResolutionMM)
					out.Instrument.ReferenceUMM = max(out.Instrument.ReferenceUMM, tools[id].ReferenceUMM)
				}
			}
			if len(values) > 0 {
				p.Specimens = append(p.Specimens, evidence.NestedSpecimen{ValuesMM: values})
			}
		}
		if len(p.Specimens) > 0 {
			out.Prints, on = append(out.Prints, p), append(on, i)
		}
	}
	if len(used) == 1 && used[0] != "" {
		out.Instrument.ID = &used[0]
	}
	return out, on
}

// UsedOn reports that a size of the side was read with an instrument.
func (s Prints) UsedOn(id string) bool {
	for _, sheet := range s.Sheets {
		if slices.ContainsFunc(sheet.Readings, func(r bench.Reading) bool { return r.ValueMM != nil && quantity.Or(r.InstrumentID, "") == id }) {
			return true
		}
	}
	return false
}

// LayerUM is the layer height of a side's prints, 0 where they have several.
func (s Prints) LayerUM() (um float64) {
	for _, sheet := range s.Sheets {
		if um != 0 && sheet.Profile.LayerUM != um {
			return 0
		}
		um = sheet.Profile.LayerUM
	}
	return um
}

// Ladder adds up each print's outcomes on a ladder.
func (r Readings) Ladder() (out []setup.LadderPrint) {
	for _, print := range r {
		var p setup.LadderPrint
		for _, specimen := range print {
			for _, reading := range specimen.Readings {
				if reading.RungMM == nil || reading.Intact == nil {
					continue
				}
				at := slices.IndexFunc(p.Rungs, func(rung detail.Rung) bool { return rung.SizeMM == *reading.RungMM })
				if at < 0 {
					at, p.Rungs = len(p.Rungs), append(p.Rungs, detail.Rung{SizeMM: *reading.RungMM})
				}
				p.Rungs[at].Of++
				if *reading.Intact {
					p.Rungs[at].Intact++
				}
			}
		}
		if len(p.Rungs) == 0 {
			continue
		}
		slices.SortFunc(p.Rungs, func(a, b detail.Rung) int { return cmp.Compare(a.SizeMM, b.SizeMM) })
		out = append(out, p)
	}
	return out
}

// Checks counts, by print, on how many specimens a checkpoint is not present.
func (r Readings) Checks() (out []evidence.PrintCount) {
	for _, print := range r {
		var c evidence.PrintCount
		for _, specimen := range print {
			last := specimen.Readings[len(specimen.Readings)-1]
			if last.State == nil {
				continue
			}
			c.Judged++
			if *last.State != "present" {
				c.Failed++
			}
		}
		if c.Judged > 0 {
			out = append(out, c)
		}
	}
	return out
}
