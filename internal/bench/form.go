package bench

import (
	"database/sql/driver"
	"fmt"
	"strings"

	"ojime/internal/core/metrology"
	"ojime/internal/core/quantity"
)

// Form is something that is measured on a piece beyond single sizes. Nominal is the angle
// that it should have, in degrees, for an angle alone; RungsMM are the clearances of a fit,
// rising. It cannot be changed, only retired: readings rest on it.
type Form struct {
	ID        string   `json:"id" required:"false" readOnly:"true"`
	PieceID   string   `json:"piece_id" required:"false" readOnly:"true"`
	CreatedMS int64    `json:"created_ms" required:"false" readOnly:"true"`
	Kind      string   `json:"kind" enum:"round,angle,warp,foot,fit,thread"`
	Name      string   `json:"name" minLength:"1"`
	Place     string   `json:"place" required:"false"`
	Nominal   *float64 `json:"nominal" required:"false" exclusiveMinimum:"0"`
	RungsMM   Sizes    `json:"rungs_mm" required:"false" maxItems:"12"`
	RetiredMS *int64   `json:"retired_ms" required:"false" readOnly:"true"`
}

// Check reports by field what the form lacks.
func (f Form) Check() error {
	var c quantity.Checks
	if strings.TrimSpace(f.Name) == "" {
		c.Fail("name", "is missing; say what is measured, such as the rim")
	}
	if _, known := metrology.FormOf(f.Kind); !known {
		c.Fail("kind", "is %.40q, which is no kind of form", f.Kind)
	}
	switch {
	case f.Kind == metrology.Angle && f.Nominal == nil:
		c.Fail("nominal", "is missing; say which angle it should have, in degrees")
	case f.Kind != metrology.Angle && f.Nominal != nil:
		c.Fail("nominal", "belongs to an angle")
	case f.Kind == metrology.Fit && len(f.RungsMM) < 2:
		c.Fail("rungs_mm", "are %d; a fit has at least two clearances", len(f.RungsMM))
	case f.Kind != metrology.Fit && len(f.RungsMM) > 0:
		c.Fail("rungs_mm", "belong to a fit")
	}
	c.AboveIf("nominal", f.Nominal)
	for i, v := range f.RungsMM {
		if !(v >= 0) || i > 0 && v <= f.RungsMM[i-1] {
			c.Fail(fmt.Sprintf("rungs_mm[%d]", i), "is %v; clearances are 0 or more, and rise", v)
		}
	}
	return c.Err()
}

// FitRungs are the outcomes of a fit, clearance by clearance.
type FitRungs []metrology.FitRung

// Value stores the list as JSON text.
func (l FitRungs) Value() (driver.Value, error) { return listValue(l) }

// Scan reads what Value stored.
func (l *FitRungs) Scan(from any) error { return scanList(from, l) }

// FormReading is one reading of a form of a specimen: what was Measured, in the unit of its
// kind, or the outcome of each clearance, or the state of a thread, with the mating part.
type FormReading struct {
	ID           string   `json:"id" required:"false" readOnly:"true"`
	SpecimenID   string   `json:"specimen_id"`
	FormID       string   `json:"form_id"`
	InstrumentID *string  `json:"instrument_id" required:"false"`
	RecordedMS   int64    `json:"recorded_ms" required:"false" readOnly:"true"`
	Measured     Sizes    `json:"measured" required:"false" maxItems:"4"`
	Rungs        FitRungs `json:"rungs" required:"false" maxItems:"12"`
	State        string   `json:"state" required:"false" enum:",no,binds,goes"`
	Mate         string   `json:"mate" required:"false"`
	TakenBackMS  *int64   `json:"taken_back_ms" required:"false" readOnly:"true"`
	TakenBackWhy string   `json:"taken_back_why" required:"false" readOnly:"true"`
}

// Read is the reading as its kind takes it.
func (r FormReading) Read() metrology.FormReading {
	return metrology.FormReading{Measured: r.Measured, Rungs: r.Rungs, State: r.State, Mate: r.Mate}
}
