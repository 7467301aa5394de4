package api

import (
	"bytes"
	"encoding/json"
	"reflect"

	"github.com/danielgtaylor/huma/v2"

	"ojime/internal/bench"
)

// amended is a command that changes part of an entry: the version it was made against,
// the fields that change (absent ones stay as they are, null is not known), and why.
// Confirmed keeps values that were questioned.
type amended[T any] struct {
	ID   string `path:"id"`
	Body struct {
		Version   int64      `json:"version"`
		Change    partial[T] `json:"change"`
		Why       string     `json:"why" required:"false"`
		Confirmed bool       `json:"confirmed" required:"false" doc:"true keeps values that were questioned"`
	}
}

// partial is an object of the fields that a command changes, as it was sent: which
// fields it names is a part of what it says. T documents and bounds it.
type partial[T any] struct{ raw json.RawMessage }

// UnmarshalJSON keeps the object as it came.
func (c *partial[T]) UnmarshalJSON(text []byte) error {
	c.raw = bytes.Clone(text)
	return nil
}

// MarshalJSON gives it back.
func (c partial[T]) MarshalJSON() ([]byte, error) { return c.raw, nil }

// Schema is that of T.
func (partial[T]) Schema(r huma.Registry) *huma.Schema {
	return r.Schema(reflect.TypeFor[T](), true, "")
}

// runChange are the fields of a print that may be amended.
type runChange struct {
	BottleID          *string  `json:"bottle_id" required:"false"`
	ProfileID         string   `json:"profile_id" required:"false" minLength:"1"`
	StartedMS         int64    `json:"started_ms" required:"false"`
	EndedMS           *int64   `json:"ended_ms" required:"false"`
	EndedHow          string   `json:"ended_how" required:"false" enum:",finished,stopped"`
	PausedS           float64  `json:"paused_s" required:"false" minimum:"0"`
	StoppedLayer      *int64   `json:"stopped_layer" required:"false" minimum:"0"`
	Software          *string  `json:"software" required:"false"`
	SoftwareEstimateS *float64 `json:"software_estimate_s" required:"false" exclusiveMinimum:"0"`
	ResinUsedG        *float64 `json:"resin_used_g" required:"false" exclusiveMinimum:"0"`
	AttendedMin       *float64 `json:"attended_min" required:"false" minimum:"0"`
	RoomTempC         *float64 `json:"room_temp_c" required:"false"`
	ResinTempC        *float64 `json:"resin_temp_c" required:"false"`
	HumidityPct       *float64 `json:"humidity_pct" required:"false" minimum:"0" maximum:"100"`
	HeaterOn          *bool    `json:"heater_on" required:"false"`
	FilmClouded       *bool    `json:"film_clouded" required:"false"`
	LevelOff          *bool    `json:"level_off" required:"false"`
	Observed          string   `json:"observed" required:"false"`
	Orientation       *string  `json:"orientation" required:"false"`
	Supports          *string  `json:"supports" required:"false"`
	WashS             *float64 `json:"wash_s" required:"false" minimum:"0"`
	CureS             *float64 `json:"cure_s" required:"false" minimum:"0"`
	Surface           *string  `json:"surface" required:"false" enum:"raw,primed,painted"`
	Notes             string   `json:"notes" required:"false"`
	VatFillML         *float64 `json:"vat_fill_ml" required:"false" minimum:"0"`
}

// eventChange are the fields of a knot that may be corrected.
type eventChange struct {
	AtMS          int64         `json:"at_ms" required:"false"`
	Kinds         bench.IDs     `json:"kinds" required:"false" minItems:"1"`
	Note          string        `json:"note" required:"false"`
	Changes       bench.Changes `json:"changes" required:"false"`
	FilmLayers    *float64      `json:"film_layers" required:"false" minimum:"0"`
	LightH        *float64      `json:"light_h" required:"false" minimum:"0"`
	UnknownBefore bool          `json:"unknown_before" required:"false"`
	// ClaimedTimePct is how long a print is claimed to take since, in per cent of before.
	ClaimedTimePct *float64 `json:"claimed_time_pct" required:"false" exclusiveMinimum:"0"`
	ResinID        *string  `json:"resin_id" required:"false"`
}

// bottleChange are the fields of a bottle that may be corrected.
type bottleChange struct {
	Lot       string   `json:"lot" required:"false"`
	OpenedOn  *string  `json:"opened_on" required:"false"`
	ExpiresOn *string  `json:"expires_on" required:"false"`
	TareG     *float64 `json:"tare_g" required:"false" minimum:"0"`
}
