package printing

import (
	"cmp"
	"fmt"
	"slices"

	"ojime/internal/bench"
	"ojime/internal/core/metrology"
	"ojime/internal/core/quantity"
	"ojime/internal/core/stats"
	"ojime/internal/store"
)

// corrections are what is proposed so that sizes and feet come right, and whether what an
// earlier print proposed came true with this one.
func (s *RunSheet) corrections(t *store.Tx) error {
	s.Corrections = []string{}
	if s.Dimensions != nil {
		s.Corrections = append(s.Corrections, metrology.Correct(*s.Dimensions).Says...)
	}
	if foot := s.footAdvice(); foot != "" {
		s.Corrections = append(s.Corrections, foot)
	}
	if s.Dimensions == nil {
		return nil
	}
	before, err := s.scaledFrom(t)
	if err != nil || before == nil {
		return err
	}
	ratio := 100 * s.Specimens[0].ScalePct / before.Specimens[0].ScalePct
	if words, compared := metrology.CameTrue(*before.Dimensions, *s.Dimensions, ratio); compared {
		s.Corrections = append(s.Corrections, fmt.Sprintf("Against %s: %s", before.Run.Code, words))
	}
	return nil
}

// footAdvice follows from the feet that were read and are not coated.
func (s *RunSheet) footAdvice() string {
	var feet []float64
	for _, r := range s.FormReadings {
		for _, f := range s.Forms {
			if f.ID == r.FormID && f.Kind == metrology.Foot && r.TakenBackMS == nil && !s.IsCoated(r.SpecimenID, r.RecordedMS) {
				feet = append(feet, metrology.FormFigure(f.Kind, r.Measured, 0))
			}
		}
	}
	if len(feet) == 0 {
		return ""
	}
	return metrology.FootAdvice(stats.Mean(feet), len(feet))
}

// scaledFrom is the last print before this one with the same settings and one piece, that was
// measured and printed at another scale; nil where there is none.
func (s *RunSheet) scaledFrom(t *store.Tx) (*RunSheet, error) {
	if len(s.Pieces) != 1 || !sameScale(s.Specimens) {
		return nil, nil
	}
	runs, err := t.RunsOf(s.Run.MachineID, s.Run.ResinID, s.Pieces[0].ID)
	if err != nil {
		return nil, err
	}
	slices.SortFunc(runs, func(a, b bench.Run) int { return cmp.Compare(b.StartedMS, a.StartedMS) })
	var ids []string
	for _, r := range runs {
		if r.StartedMS < s.Run.StartedMS && r.ProfileID == s.Run.ProfileID && len(ids) < mostLookedBack {
			ids = append(ids, r.ID)
		}
	}
	specimens, err := t.SpecimensOfRuns(ids)
	if err != nil {
		return nil, err
	}
	for _, id := range ids {
		own := specimens[id]
		if !sameScale(own) || own[0].ScalePct == s.Specimens[0].ScalePct || slices.ContainsFunc(own, func(p bench.Specimen) bool { return p.PieceID != s.Pieces[0].ID }) {
			continue
		}
		return measuredBefore(t, id)
	}
	return nil, nil
}

// mostLookedBack is how many prints are looked back for one at another scale: a correction is
// tried soon, or not at all.
const mostLookedBack = 30

// measuredBefore is a print with its sizes; nil where none was read.
func measuredBefore(t *store.Tx, id string) (*RunSheet, error) {
	sheets, err := NewReader(t).Sheets(id)
	if err != nil {
		return nil, err
	}
	before := *sheets[0]
	instruments, err := t.Instruments()
	if err != nil {
		return nil, err
	}
	in := Measured{Features: before.Features, Specimens: before.Specimens, Prints: []map[string][]CopyReadings{before.ByFeature()}, Instruments: instruments}
	if before.Dimensions, err = in.Dimensions(); err != nil || before.Dimensions == nil {
		return nil, err
	}
	return &before, nil
}

func sameScale(specimens []bench.Specimen) bool {
	return len(specimens) > 0 && !slices.ContainsFunc(specimens, func(p bench.Specimen) bool { return !quantity.Equal(p.ScalePct, specimens[0].ScalePct) })
}
