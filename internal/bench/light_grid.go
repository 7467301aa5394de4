package bench

import (
	"database/sql/driver"
	"math"
	"slices"

	"ojime/internal/core/optics"
)

// LightGrid is what a meter read over a machine's plate on a day: rows from the front to the back,
// each from the left to the right, in the meter's own unit. It is appended; one that was wrong is
// taken back.
type LightGrid struct {
	ID           string   `json:"id" required:"false" readOnly:"true"`
	MachineID    string   `json:"machine_id" required:"false" readOnly:"true"`
	AtMS         int64    `json:"at_ms" required:"false"`
	Readings     GridRows `json:"readings" minItems:"2" maxItems:"15"`
	Unit         string   `json:"unit" required:"false"`
	Meter        string   `json:"meter" required:"false"`
	Note         string   `json:"note" required:"false"`
	TakenBackMS  *int64   `json:"taken_back_ms" required:"false" readOnly:"true"`
	TakenBackWhy string   `json:"taken_back_why" required:"false" readOnly:"true"`
}

// GridRows are readings in rows.
type GridRows [][]float64

// Value stores the rows as JSON text.
func (g GridRows) Value() (driver.Value, error) { return listValue(g) }

// Scan reads what Value stored.
func (g *GridRows) Scan(from any) error { return scanList(from, g) }

// Even is how even the light of the grid is, or what is wrong with it.
func (g LightGrid) Even() (optics.Evenness, error) {
	return optics.Even(optics.EvennessInput{Readings: g.Readings})
}

// LightEnds are the knots after which light measured before is not that of the machine any more:
// another panel or light engine, and a calibration of the light.
var LightEnds = []string{"panel", "light_calibration"}

// GridAt is the grid that tells of a machine's light at an instant: of those that were not taken back,
// the nearest in time with no knot of LightEnds between it and that instant; nil where there is none.
func GridAt(grids []LightGrid, knots []MachineEvent, atMS int64) *LightGrid {
	var out *LightGrid
	away := func(g LightGrid) int64 { return max(g.AtMS-atMS, atMS-g.AtMS) }
	for i, g := range grids {
		if g.TakenBackMS == nil && !happened(knots, LightEnds, g.AtMS, atMS) && (out == nil || away(g) < away(*out)) {
			out = &grids[i]
		}
	}
	return out
}

// SurveyAt is the survey that tells of a machine's dead and weak spots at an instant, as GridAt does of
// its light: with no other panel put in between; nil where there is none.
func SurveyAt(surveys []PlateSurvey, knots []MachineEvent, atMS int64) *PlateSurvey {
	var out *PlateSurvey
	away := func(s PlateSurvey) int64 { return max(s.AtMS-atMS, atMS-s.AtMS) }
	for i, s := range surveys {
		if s.TakenBackMS == nil && !happened(knots, PanelKinds, s.AtMS, atMS) && (out == nil || away(s) < away(*out)) {
			out = &surveys[i]
		}
	}
	return out
}

// Over reports a spot of the survey under a piece of a size whose middle lies at a place, all in mm.
func (s PlateSurvey) Over(xMM, yMM, sizeMM float64) bool {
	return slices.ContainsFunc(s.Spots, func(spot PlateSpot) bool {
		reach := sizeMM/2 + spot.RadiusMM
		return math.Abs(spot.XMM-xMM) <= reach && math.Abs(spot.YMM-yMM) <= reach
	})
}

// happened reports a knot of one of some kinds after the earlier and until the later of two instants.
func happened(knots []MachineEvent, kinds []string, oneMS, otherMS int64) bool {
	return slices.ContainsFunc(knots, func(k MachineEvent) bool {
		is := slices.ContainsFunc(kinds, func(kind string) bool { return slices.Contains(k.Kinds, kind) })
		return k.RetiredMS == nil && is && k.AtMS > min(oneMS, otherMS) && k.AtMS <= max(oneMS, otherMS)
	})
}
