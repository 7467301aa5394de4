package bench

import (
	"database/sql/driver"

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
