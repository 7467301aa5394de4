package kit

import (
	"fmt"

	"ojime/internal/bench"
	"ojime/internal/say"
	"ojime/internal/store"
)

// Lights are what is known of a machine's light over its plate, and of dead or weak spots of it.
type Lights struct {
	grids   []bench.LightGrid
	knots   []bench.MachineEvent
	surveys []bench.PlateSurvey
}

// LightsOf reads them.
func LightsOf(t *store.Tx, machineID string) (l Lights, err error) {
	if l.grids, err = t.LightGridsOfMachine(machineID); err != nil {
		return l, err
	}
	if l.surveys, err = t.PlateSurveysOfMachine(machineID); err != nil || len(l.grids)+len(l.surveys) == 0 {
		return l, err
	}
	l.knots, err = t.EventsOfMachine(machineID)
	return l, err
}

// LightThere is the light where copies lay, in % of the plate's mean, with what was measured and when.
type LightThere struct {
	LeastPct float64 `json:"least_pct"`
	MeanPct  float64 `json:"mean_pct"`
	MostPct  float64 `json:"most_pct"`
	Says     string  `json:"says"`
	// of is the light under each copy by its id.
	of map[string]float64
}

// MeanOf is the mean of the light under some of the copies.
func (l LightThere) MeanOf(specimens []bench.Specimen) float64 {
	var sum float64
	for _, s := range specimens {
		sum += l.of[s.ID]
	}
	return sum / float64(len(specimens))
}

// Under is the light where copies of a print lay when it began; nil where it was not measured, the
// light was changed between, or where they lay is not known.
func (l Lights) Under(m bench.Machine, atMS int64, specimens []bench.Specimen) (*LightThere, error) {
	grid := bench.GridAt(l.grids, l.knots, atMS)
	if grid == nil || len(specimens) == 0 {
		return nil, nil
	}
	even, err := grid.Even()
	if err != nil {
		return nil, fmt.Errorf("light of %s: %w", say.Day(grid.AtMS), err)
	}
	var out *LightThere
	for _, s := range specimens {
		if s.XMM == nil || s.YMM == nil {
			return nil, nil
		}
		pct := even.At(*s.XMM/m.WidthMM, *s.YMM/m.DepthMM)
		if out == nil {
			out = &LightThere{LeastPct: pct, MostPct: pct, of: map[string]float64{}}
		}
		out.of[s.ID] = pct
		out.LeastPct, out.MostPct = min(out.LeastPct, pct), max(out.MostPct, pct)
	}
	out.MeanPct = out.MeanOf(specimens)
	span := say.Figure(out.LeastPct)
	if most := say.Figure(out.MostPct); most != span {
		span += " to " + most
	}
	out.Says = fmt.Sprintf("light of %s %% of the plate's mean where its copies lay (%d × %d readings, %s)", span, len(grid.Readings[0]), len(grid.Readings), say.Day(grid.AtMS))
	return out, nil
}

// OverSpot reports a copy that lay over a spot which is known to be dead or weak; nil where the plate
// was not surveyed, another panel was put in between, or where they lay is not known. Sizes are the
// smaller ones of the copies' outlines, so that what is reported lay over it however it was turned.
func (l Lights) OverSpot(atMS int64, specimens []bench.Specimen, sizeMM func(bench.Specimen) float64) *bool {
	survey := bench.SurveyAt(l.surveys, l.knots, atMS)
	if survey == nil || len(specimens) == 0 {
		return nil
	}
	over := false
	for _, s := range specimens {
		if s.XMM == nil || s.YMM == nil {
			return nil
		}
		over = over || survey.Over(*s.XMM, *s.YMM, sizeMM(s))
	}
	return &over
}
