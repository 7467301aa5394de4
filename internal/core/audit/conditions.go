// Package audit weighs whether two sides of a comparison are comparable: it
// names each condition that varies or differs between their prints, and what that may
// have done to which figure, before any figure is shown.
package audit

import (
	"fmt"
	"slices"

	"ojime/internal/core/quantity"
)

// Questions that a comparison may answer.
const (
	Detail    = "detail"
	Dimension = "dimension"
	Time      = "time"
	Failure   = "failure"
	Finish    = "finish"
	Cost      = "cost"
	Strength  = "strength" // what specimens bear
)

// Questions lists all of them.
var Questions = []string{Detail, Dimension, Time, Failure, Finish, Cost, Strength}

// Policies of a comparison: what was promised of the settings.
const (
	SameSettings   = "same_settings"
	MakerDefault   = "maker_default"
	EachCalibrated = "each_calibrated"
)

// Values are a condition of a side, one for each of its prints: a word, a number or
// true|false, nil where it is not known of that print. No value at all is not known.
type Values []any

// One is a condition that is the same for all prints of a side.
func One(v any) Values { return Values{v} }

// Each gathers a condition of several prints; nil where it is not known of one.
func Each[E, V any](prints []E, of func(E) *V) (out Values) {
	for _, p := range prints {
		if v := of(p); v == nil {
			out = append(out, nil)
		} else {
			out = append(out, scalar(*v))
		}
	}
	return out
}

// scalar makes all whole numbers plain numbers.
func scalar(v any) any {
	switch n := v.(type) {
	case int64:
		return float64(n)
	case int:
		return float64(n)
	}
	return v
}

// Take fills a condition from JSON: a value, or a list with one for each print.
func (v *Values) Take(path string, from any) error {
	list, many := from.([]any)
	if !many {
		list = []any{from}
	}
	*v = Values{}
	for i, one := range list {
		at := path
		if many {
			at = fmt.Sprintf("%s[%d]", path, i)
		}
		switch one.(type) {
		case nil, string, bool, float64:
			*v = append(*v, one)
		default:
			return quantity.Errorf(at, "is a list or an object; give one word or number a print")
		}
	}
	return nil
}

// known are the values that are known.
func (v Values) known() Values {
	if !slices.Contains(v, nil) {
		return slices.Clip(v)
	}
	return slices.DeleteFunc(slices.Clone(v), func(one any) bool { return one == nil })
}

// complete reports that all of it is known, and that there is any.
func (v Values) complete() bool { return len(v) > 0 && !slices.Contains(v, nil) }

// set reports a flag that any print has.
func (v Values) set() bool { return slices.Contains(v, any(true)) }

// Numbers are the known values that are numbers.
func (v Values) Numbers() (out []float64) {
	for _, one := range v {
		if n, ok := one.(float64); ok {
			out = append(out, n)
		}
	}
	return out
}

// alike reports that all known values are one, rounding noise apart.
func (v Values) alike() bool {
	known := v.known()
	for _, one := range known[min(1, len(known)):] {
		if !equal(known[0], one) {
			return false
		}
	}
	return true
}

func equal(a, b any) bool {
	x, xNumber := a.(float64)
	y, yNumber := b.(float64)
	if xNumber && yNumber {
		return quantity.Equal(x, y)
	}
	return a == b
}

// Conditions are those of one side, each a value for all or one for each print. Words
// are compared as given and may be text, numbers or true|false.
type Conditions struct {
	Process         Values `json:"process,omitempty"`
	LayerUM         Values `json:"layer_um,omitempty"`
	ScalePct        Values `json:"scale_pct,omitempty"`
	Piece           Values `json:"piece,omitempty"`
	PieceRevision   Values `json:"piece_revision,omitempty"`
	Resin           Values `json:"resin,omitempty"`
	BottleAgeDays   Values `json:"bottle_age_days,omitempty"`
	BottleExpired   Values `json:"bottle_expired,omitempty"`
	ExposureBasis   Values `json:"exposure_basis,omitempty"`
	FilmLayers      Values `json:"film_layers,omitempty"`
	FilmClouded     Values `json:"film_clouded,omitempty"`
	DaysSinceLevel  Values `json:"days_since_level,omitempty"`
	MovedSinceLevel Values `json:"moved_since_level,omitempty"`
	ResinTempC      Values `json:"resin_temp_c,omitempty"`
	Orientation     Values `json:"orientation,omitempty"`
	Supports        Values `json:"supports,omitempty"`
	Antialiasing    Values `json:"antialiasing,omitempty"`
	WashS           Values `json:"wash_s,omitempty"`
	CureS           Values `json:"cure_s,omitempty"`
	Surface         Values `json:"surface,omitempty"`
	Software        Values `json:"software,omitempty"`
	Machine         Values `json:"machine,omitempty"`
	ExposureS       Values `json:"exposure_s,omitempty"`
	BottomDoseS     Values `json:"bottom_dose_s,omitempty"`
	LightPowerPct   Values `json:"light_power_pct,omitempty"`
	DoseMJCM2       Values `json:"dose_mj_cm2,omitempty"`
	Motion          Values `json:"motion,omitempty"`
	FilmType        Values `json:"film_type,omitempty"`
	PlateSurface    Values `json:"plate_surface,omitempty"`
	Accessories     Values `json:"accessories,omitempty"`
	Panel           Values `json:"panel,omitempty"`
	Firmware        Values `json:"firmware,omitempty"`
	Lot             Values `json:"lot,omitempty"`
	RoomTempC       Values `json:"room_temp_c,omitempty"`
	RoomOutside     Values `json:"room_outside,omitempty"`
	RoomDrifted     Values `json:"room_drifted,omitempty"`
	HumidityPct     Values `json:"humidity_pct,omitempty"`
	HeaterOn        Values `json:"heater_on,omitempty"`
	Room            Values `json:"room,omitempty"`
	Place           Values `json:"place,omitempty"`
	LightPct        Values `json:"light_pct,omitempty"`
	Paused          Values `json:"paused,omitempty"`
	Instrument      Values `json:"instrument,omitempty"`
	SurfaceLight    Values `json:"surface_light,omitempty"`
	Station         Values `json:"station,omitempty"`
	PrintedMS       Values `json:"printed_ms,omitempty"`
	Copies          Values `json:"copies,omitempty"`
	Prints          *int64 `json:"prints,omitempty"`
}

// laser reports that any print of either side was traced by a laser.
func (in CompareInput) laser() bool {
	return slices.Contains(in.A.Process, any("laser")) || slices.Contains(in.B.Process, any("laser"))
}
