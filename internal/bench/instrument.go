package bench

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"ojime/internal/core/metrology"
	"ojime/internal/core/quantity"
)

// Instrument is what readings are taken with; both figures in mm, and 0 of one that measures
// no lengths.
type Instrument struct {
	ID           string  `json:"id" required:"false" readOnly:"true"`
	Code         string  `json:"code" required:"false" readOnly:"true"`
	Version      int64   `json:"version" required:"false"`
	CreatedMS    int64   `json:"created_ms" required:"false" readOnly:"true"`
	Name         string  `json:"name" minLength:"1"`
	ResolutionMM float64 `json:"resolution_mm" minimum:"0"`
	ReferenceUMM float64 `json:"reference_u_mm" minimum:"0"`
	Kind         string  `json:"kind" required:"false" enum:"caliper,micrometer,optical_scale,balance,hygrometer,light_meter"`
}

// InstrumentUnits are the units in which each kind of instrument shows what it measures.
var InstrumentUnits = map[string]string{"caliper": "mm", "micrometer": "mm", "optical_scale": "mm", "balance": "g", "hygrometer": "%", "light_meter": "mW/cm²"}

// Unit is that in which it shows what it measures.
func (i Instrument) Unit() string { return InstrumentUnits[i.Kind] }

// Check reports a kind that is none; an instrument without a kind, as earlier records have
// them, is a caliper.
func (i Instrument) Check() error {
	if _, known := InstrumentUnits[i.Kind]; !known {
		return quantity.Errorf("kind", "is %.40q, which is no kind of instrument", i.Kind)
	}
	return nil
}

// InstrumentCheck is what an instrument showed for something known, such as a gauge block or
// a pin, in the instrument's own unit. It is appended; one that was wrong is taken back.
type InstrumentCheck struct {
	ID           string  `json:"id" required:"false" readOnly:"true"`
	InstrumentID string  `json:"instrument_id" required:"false" readOnly:"true"`
	AtMS         int64   `json:"at_ms" required:"false" readOnly:"true"`
	Against      string  `json:"against" minLength:"1"`
	TrueValue    float64 `json:"true_value"`
	ShownValue   float64 `json:"shown_value"`
	Tolerance    float64 `json:"tolerance" exclusiveMinimum:"0"`
	TakenBackMS  *int64  `json:"taken_back_ms" required:"false" readOnly:"true"`
	TakenBackWhy string  `json:"taken_back_why" required:"false" readOnly:"true"`
}

// Counting is the check as it is judged.
func (c InstrumentCheck) Counting() metrology.InstrumentCheck {
	return metrology.InstrumentCheck{AtMS: c.AtMS, True: c.TrueValue, Shown: c.ShownValue, Tolerance: c.Tolerance}
}

// DoubtsOf are the times in which an instrument cannot be relied on, by its checks that were
// not taken back.
func DoubtsOf(checks []InstrumentCheck) []metrology.Doubt {
	var counting []metrology.InstrumentCheck
	for _, c := range checks {
		if c.TakenBackMS == nil {
			counting = append(counting, c.Counting())
		}
	}
	return metrology.Doubts(counting)
}

// GaugeStudy is a repeatability study of an instrument: every operator measures the same of
// every part, in rounds, in an order that is drawn from its seed. It cannot be changed.
type GaugeStudy struct {
	ID           string `json:"id" required:"false" readOnly:"true"`
	Code         string `json:"code" required:"false" readOnly:"true"`
	CreatedMS    int64  `json:"created_ms" required:"false" readOnly:"true"`
	InstrumentID string `json:"instrument_id" required:"false" readOnly:"true"`
	What         string `json:"what" minLength:"1"`
	Parts        Notes  `json:"parts" minItems:"2" maxItems:"20"`
	Operators    Notes  `json:"operators" minItems:"1" maxItems:"4"`
	Repeats      int64  `json:"repeats" minimum:"2" maximum:"5"`
	Seed         int64  `json:"seed" required:"false" readOnly:"true"`
}

// Check reports names that are missing or stand twice.
func (s GaugeStudy) Check() error {
	var c quantity.Checks
	for field, names := range map[string]Notes{"parts": s.Parts, "operators": s.Operators} {
		for i, name := range names {
			if strings.TrimSpace(name) == "" {
				c.Fail(fmt.Sprintf("%s[%d]", field, i), "is empty; give each a name, such as its code")
			} else if slices.Contains(names[:i], name) {
				c.Fail(fmt.Sprintf("%s[%d]", field, i), "is %.40q, which stands twice", name)
			}
		}
	}
	if strings.TrimSpace(s.What) == "" {
		c.Fail("what", "is missing; say what is measured of each part, such as its width")
	}
	return c.Err()
}

// Order is the order in which the study is taken.
func (s GaugeStudy) Order() []metrology.StudyStep {
	return metrology.StudyOrder(len(s.Parts), len(s.Operators), int(s.Repeats), uint64(s.Seed))
}

// GaugeReading is a reading of a study at its position in the order, from 0 on; one that was
// taken back is taken anew.
type GaugeReading struct {
	ID          string  `json:"id" required:"false" readOnly:"true"`
	StudyID     string  `json:"study_id" required:"false" readOnly:"true"`
	Position    int64   `json:"position" minimum:"0"`
	ValueMM     float64 `json:"value_mm" exclusiveMinimum:"0"`
	AtMS        int64   `json:"at_ms" required:"false" readOnly:"true"`
	TakenBackMS *int64  `json:"taken_back_ms" required:"false" readOnly:"true"`
}

// Check reports a reading that is no length.
func (r GaugeReading) Check() error {
	if !(r.ValueMM > 0) || math.IsInf(r.ValueMM, 0) {
		return quantity.Errorf("value_mm", "is %v; give the reading in mm", r.ValueMM)
	}
	return nil
}
