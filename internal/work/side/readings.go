package side

import (
	"slices"

	"ojime/internal/bench"
	"ojime/internal/core/detail"
	"ojime/internal/core/evidence"
	"ojime/internal/core/quantity"
	"ojime/internal/core/setup"
	"ojime/internal/work/task"
)

// Readings are what was read of a side, by feature, print and specimen, of specimens that
// count.
type Readings map[string][]map[string][]bench.Reading

// ByFeature sorts the readings of a side that count.
func (s Prints) ByFeature() Readings {
	out, counts := Readings{}, s.Measured.Counts()
	asked := task.ByID(s.Measured.Features, func(f bench.Feature) string { return f.ID })
	for i, sheet := range s.Sheets {
		bare := sheet.Bare()
		// Most copies are read once in a feature: those readings lie in one array, not in one each.
		once := make([]bench.Reading, 0, len(bare))
		for _, r := range bare {
			if _, wanted := asked[r.FeatureID]; !wanted || !counts[r.SpecimenID] {
				continue
			}
			prints := out[r.FeatureID]
			if prints == nil {
				prints = make([]map[string][]bench.Reading, len(s.Sheets))
				out[r.FeatureID] = prints
			}
			if prints[i] == nil {
				prints[i] = make(map[string][]bench.Reading, len(sheet.Specimens))
			}
			if before, again := prints[i][r.SpecimenID]; again {
				prints[i][r.SpecimenID] = append(before, r)
				continue
			}
			once = append(once, r)
			prints[i][r.SpecimenID] = once[len(once)-1 : len(once) : len(once)]
		}
	}
	return out
}

// Nested are sizes by print, specimen and reading, with the instrument where it was one,
// else the coarsest and none that is known; on are the prints that were read.
func (s Prints) Nested(prints []map[string][]bench.Reading) (out evidence.NestedSide, on []int) {
	tools := task.ByID(s.Measured.Instruments, func(i bench.Instrument) string { return i.ID })
	var used []string
	for i, print := range prints {
		var p evidence.NestedPrint
		for _, specimen := range s.Sheets[i].Specimens {
			var values []float64
			for _, r := range print[specimen.ID] {
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
func (r Readings) Ladder(s Prints, featureID string) (out []setup.LadderPrint) {
	for i, print := range r[featureID] {
		rungs := map[float64]detail.Rung{}
		for _, specimen := range s.Sheets[i].Specimens {
			for _, reading := range print[specimen.ID] {
				if reading.RungMM == nil || reading.Intact == nil {
					continue
				}
				rung := rungs[*reading.RungMM]
				rung.SizeMM = *reading.RungMM
				rung.Of++
				if *reading.Intact {
					rung.Intact++
				}
				rungs[*reading.RungMM] = rung
			}
		}
		if len(rungs) == 0 {
			continue
		}
		var p setup.LadderPrint
		for _, rung := range rungs {
			p.Rungs = append(p.Rungs, rung)
		}
		slices.SortFunc(p.Rungs, func(a, b detail.Rung) int {
			if a.SizeMM < b.SizeMM {
				return -1
			}
			return 1
		})
		out = append(out, p)
	}
	return out
}

// Checks counts, by print, on how many specimens a checkpoint is not present.
func (r Readings) Checks(s Prints, featureID string) (out []evidence.PrintCount) {
	for i, print := range r[featureID] {
		var c evidence.PrintCount
		for _, specimen := range s.Sheets[i].Specimens {
			list := print[specimen.ID]
			if len(list) == 0 || list[len(list)-1].State == nil {
				continue
			}
			c.Judged++
			if *list[len(list)-1].State != "present" {
				c.Failed++
			}
		}
		if c.Judged > 0 {
			out = append(out, c)
		}
	}
	return out
}
