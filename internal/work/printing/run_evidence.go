package printing

import (
	"fmt"
	"iter"
	"slices"

	"ojime/internal/bench"
	"ojime/internal/core/detail"
	"ojime/internal/core/metrology"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work/kit"
	"ojime/internal/work/task"
)

// LadderResult is one ladder's threshold over the specimens in the contest.
type LadderResult struct {
	FeatureID string                 `json:"feature_id"`
	Name      string                 `json:"name"`
	Kind      string                 `json:"kind"`
	Result    detail.ThresholdResult `json:"result"`
	Specimens int64                  `json:"specimens"`
}

// counting are the readings of a run that count, and the rest; they stay parted until the run is read anew.
func (r *Reader) counting(runID string, readings []bench.Reading) (count, corrected []bench.Reading) {
	kept := store.Derived(r.t, countingKey{runID}, store.ListOf(readings), func() (kept struct{ count, corrected []bench.Reading }) {
		kept.count, kept.corrected = counting(readings)
		return kept
	})
	return kept.count, kept.corrected
}

type countingKey struct{ runID string }

// counting splits readings into those that count and those corrected or taken back. A
// correction that was taken back brings back what it corrected.
func counting(readings []bench.Reading) (count, corrected []bench.Reading) {
	replaced := map[string]bool{}
	gone := false
	for i := range readings {
		r := &readings[i]
		gone = gone || r.TakenBackMS != nil
		if r.CorrectsID != nil && r.TakenBackMS == nil {
			replaced[*r.CorrectsID] = true
		}
	}
	if len(readings) > 0 && len(replaced) == 0 && !gone { // as nearly always: all count, and none is copied
		return slices.Clip(readings), []bench.Reading{}
	}
	count, corrected = []bench.Reading{}, []bench.Reading{}
	for _, r := range readings {
		if replaced[r.ID] || r.TakenBackMS != nil {
			corrected = append(corrected, r)
		} else {
			count = append(count, r)
		}
	}
	return slices.Clip(count), slices.Clip(corrected)
}

// Measured is readings with what they were taken on. Prints are the readings of each print by feature, of copies that count.
type Measured struct {
	Features    []bench.Feature
	Specimens   []bench.Specimen
	Prints      []map[string][]CopyReadings
	Instruments []bench.Instrument
}

// of gives the readings of a feature one after another; they are not to be changed.
func (m Measured) of(featureID string) iter.Seq[*bench.Reading] {
	return func(yield func(*bench.Reading) bool) {
		for _, print := range m.Prints {
			for _, specimen := range print[featureID] {
				for _, r := range specimen.Readings {
					if !yield(r) {
						return
					}
				}
			}
		}
	}
}

// Dimensions summarises caliper readings; nil where there are none. Where
// several instruments were used, the coarsest one's uncertainty stands for all.
func (m Measured) Dimensions() (*metrology.SummaryResult, error) {
	var in metrology.SummaryInput
	tools := task.ByID(m.Instruments, func(i bench.Instrument) string { return i.ID })
	last := "none yet"
	for _, f := range m.Features {
		if f.Kind != "dimension" {
			continue
		}
		var values []float64
		for r := range m.of(f.ID) {
			if r.ValueMM == nil {
				continue
			}
			values = append(values, *r.ValueMM)
			if id := quantity.Or(r.InstrumentID, ""); id != last {
				tool := tools[id]
				in.Instrument.ResolutionMM = max(in.Instrument.ResolutionMM, tool.ResolutionMM)
				in.Instrument.ReferenceUMM = max(in.Instrument.ReferenceUMM, tool.ReferenceUMM)
				last = id
			}
		}
		if len(values) > 0 {
			in.Readings = append(in.Readings, metrology.FeatureReadings{Feature: f.Name, Axis: *f.Axis, Kind: *f.Face, NominalMM: *f.NominalMM, ValuesMM: values})
		}
	}
	if len(in.Readings) == 0 {
		return nil, nil
	}
	out, err := metrology.Summary(in)
	if err != nil {
		return nil, fmt.Errorf("summarise dimensions: %w", err)
	}
	return &out, nil
}

// Ladders computes the threshold of each ladder that was read.
func (m Measured) Ladders(machine bench.Machine) ([]LadderResult, error) {
	out := []LadderResult{}
	dots, err := kit.PitchOf(machine)
	if err != nil {
		return nil, err
	}
	var pitch *float64
	if dots != nil {
		pitch = &dots.PitchUM
	}
	for _, f := range m.Features {
		if f.Kind != "pins" && f.Kind != "gaps" {
			continue
		}
		in := detail.ThresholdInput{Ladder: f.Name, PitchUM: pitch}
		specimens, index := map[string]bool{}, map[float64]int{}
		for r := range m.of(f.ID) {
			if r.RungMM == nil {
				continue
			}
			at, seen := index[*r.RungMM]
			if !seen {
				at = len(in.Rungs)
				index[*r.RungMM], in.Rungs = at, append(in.Rungs, detail.Rung{SizeMM: *r.RungMM})
			}
			in.Rungs[at].Of++
			if *r.Intact {
				in.Rungs[at].Intact++
			}
			specimens[r.SpecimenID] = true
		}
		if len(in.Rungs) == 0 {
			continue
		}
		result, err := detail.Threshold(in)
		if err != nil {
			return nil, fmt.Errorf("ladder %s: %w", f.Name, err)
		}
		out = append(out, LadderResult{FeatureID: f.ID, Name: f.Name, Kind: f.Kind, Result: result, Specimens: int64(len(specimens))})
	}
	return out, nil
}
