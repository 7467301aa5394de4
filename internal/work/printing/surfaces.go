package printing

import (
	"fmt"
	"math"

	"ojime/internal/bench"
	"ojime/internal/core/metrology"
	"ojime/internal/core/quantity"
	"ojime/internal/core/viewing"
)

// besides makes lists of what may not be there, and says in which stage each copy is.
func (s *RunSheet) besides() {
	if s.Stressed == nil {
		s.Stressed = []bench.Stressed{}
	}
	if s.RoomReadings == nil {
		s.RoomReadings = []bench.RoomReading{}
	}
	if s.Stages == nil {
		s.Stages = []bench.SpecimenStage{}
	}
	if s.FormReadings == nil {
		s.FormReadings = []bench.FormReading{}
	}
	s.SettingsSay = []string{}
	s.Later, s.Corrections, s.FormWords, s.FitMatrices = []string{}, []string{}, []string{}, []FitMatrix{}
	s.Reached, s.ReworkMin = make([]string, len(s.Specimens)), make([]*float64, len(s.Specimens))
	for i, p := range s.Specimens {
		s.Reached[i], s.ReworkMin[i] = s.StageAt(p.ID, math.MaxInt64), bench.ReworkOf(s.Stages, p.ID)
	}
}

// StageAt is the stage that the surface of a copy was in at an instant, UTC ms.
func (s *RunSheet) StageAt(specimenID string, atMS int64) string {
	return viewing.StageAt(bench.ReachedBy(s.Run, s.Stages, specimenID), atMS)
}

// GoneBy is why a copy cannot be seen in a stage any more; empty where it can.
func (s *RunSheet) GoneBy(specimenID, stage string) string {
	now := s.StageAt(specimenID, math.MaxInt64)
	if !viewing.Gone(now, stage) {
		return ""
	}
	for _, p := range s.Specimens {
		if p.ID == specimenID {
			return fmt.Sprintf("is %s, and %s is %s now: nothing of what lay below can be seen", stage, p.Code, now)
		}
	}
	return ""
}

func (s *RunSheet) formWords() []string {
	out := make([]string, len(s.FormReadings))
	for i, r := range s.FormReadings {
		for _, f := range s.Forms {
			if f.ID == r.FormID {
				out[i] = r.Read().Words(f.Kind, quantity.Or(f.Nominal, 0))
			}
		}
	}
	return out
}

// FitMatrix is a fit over all copies of a print.
type FitMatrix struct {
	FormID string             `json:"form_id"`
	Name   string             `json:"name"`
	Rows   []metrology.FitRow `json:"rows"`
}

// fitMatrices are the fits that were tried, from readings that count.
func (s *RunSheet) fitMatrices() []FitMatrix {
	out := []FitMatrix{}
	for _, f := range s.Forms {
		if f.Kind != metrology.Fit {
			continue
		}
		var tries []metrology.FitTry
		for _, r := range s.FormReadings {
			if r.FormID == f.ID && r.TakenBackMS == nil && !s.IsCoated(r.SpecimenID, r.RecordedMS) {
				tries = append(tries, metrology.FitTry{Mate: r.Mate, Rungs: r.Rungs})
			}
		}
		if len(tries) > 0 {
			out = append(out, FitMatrix{f.ID, f.Name, metrology.FitMatrix(f.RungsMM, tries)})
		}
	}
	return out
}

// IsCoated reports that a copy was varnished, primed or painted at an instant.
func (s *RunSheet) IsCoated(specimenID string, atMS int64) bool {
	return len(s.Stages) > 0 && viewing.Coated(s.StageAt(specimenID, atMS))
}

// Bare are the readings that count and were taken before varnish, primer or paint: a coat
// adds to sizes and hides what lies below.
func (s *RunSheet) Bare() []bench.Reading {
	if len(s.Stages) == 0 {
		return s.Readings
	}
	out := make([]bench.Reading, 0, len(s.Readings))
	for _, r := range s.Readings {
		if !s.IsCoated(r.SpecimenID, r.RecordedMS) {
			out = append(out, r)
		}
	}
	return out
}

// OverDays says of each size that was read on several days how it changed.
func (s *RunSheet) OverDays() []string {
	out := []string{}
	dated := map[string][]metrology.DatedReading{}
	for _, r := range s.Bare() {
		if r.ValueMM != nil {
			dated[r.FeatureID] = append(dated[r.FeatureID], metrology.DatedReading{Copy: r.SpecimenID, AtMS: r.RecordedMS, ValueMM: *r.ValueMM})
		}
	}
	for _, f := range s.Features {
		for _, l := range metrology.OverDays(dated[f.ID]) {
			out = append(out, l.Words(f.Name))
		}
	}
	return out
}
