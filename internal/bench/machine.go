package bench

import (
	"database/sql/driver"
	"fmt"
	"slices"
	"strings"

	"ojime/internal/core/machine"
	"ojime/internal/core/quantity"
	"ojime/internal/say"
)

// Machine is a printer: its plate, pixels or spot, vat, usual motion and waits,
// power and price. Lengths in mm, times in s, speeds as named, money in the
// reviewer's currency; nil is "not stated".
type Machine struct {
	ID               string   `json:"id" required:"false" readOnly:"true"`
	Code             string   `json:"code" required:"false" readOnly:"true"`
	Version          int64    `json:"version" required:"false"`
	CreatedMS        int64    `json:"created_ms" required:"false" readOnly:"true"`
	Name             string   `json:"name" minLength:"1"`
	Maker            string   `json:"maker"`
	LightEngine      string   `json:"light_engine" enum:"masked_lcd,projector,laser"`
	WidthMM          float64  `json:"width_mm" exclusiveMinimum:"0"`
	DepthMM          float64  `json:"depth_mm" exclusiveMinimum:"0"`
	HeightMM         float64  `json:"height_mm" exclusiveMinimum:"0"`
	PxX              *int64   `json:"px_x" required:"false" minimum:"1"`
	PxY              *int64   `json:"px_y" required:"false" minimum:"1"`
	IrradianceMWCM2  *float64 `json:"irradiance_mw_cm2" required:"false" exclusiveMinimum:"0"`
	DialStepS        float64  `json:"dial_step_s" exclusiveMinimum:"0"`
	SpotUM           *float64 `json:"spot_um" required:"false" exclusiveMinimum:"0"`
	HatchMM          *float64 `json:"hatch_mm" required:"false" exclusiveMinimum:"0"`
	HatchMMS         *float64 `json:"hatch_mm_s" required:"false" exclusiveMinimum:"0"`
	ContourPasses    *int64   `json:"contour_passes" required:"false" minimum:"0"`
	ContourMMS       *float64 `json:"contour_mm_s" required:"false" exclusiveMinimum:"0"`
	SettleS          *float64 `json:"settle_s" required:"false" minimum:"0"`
	VatMaxML         *float64 `json:"vat_max_ml" required:"false" exclusiveMinimum:"0"`
	VatDeadML        *float64 `json:"vat_dead_ml" required:"false" minimum:"0"`
	Lift             Moves    `json:"lift"`
	Retract          Moves    `json:"retract"`
	ReleaseS         *float64 `json:"release_s" required:"false" minimum:"0"`
	WaitBeforeS      float64  `json:"wait_before_s" minimum:"0"`
	WaitAfterS       float64  `json:"wait_after_s" minimum:"0"`
	WaitLiftS        float64  `json:"wait_lift_s" minimum:"0"`
	StartS           float64  `json:"start_s" minimum:"0"`
	EndS             float64  `json:"end_s" minimum:"0"`
	PowerW           float64  `json:"power_w" minimum:"0"`
	PriceList        *float64 `json:"price_list" required:"false" minimum:"0"`
	PriceDiscount    float64  `json:"price_discount" minimum:"0"`
	PriceShipping    float64  `json:"price_shipping" minimum:"0"`
	PriceTaxPct      float64  `json:"price_tax_pct" minimum:"0"`
	PriceTaxIncluded bool     `json:"price_tax_included"`
	PriceExtras      float64  `json:"price_extras" minimum:"0"`
	FilmPrice        *float64 `json:"film_price" required:"false" minimum:"0"`
	FilmLifeLayers   *float64 `json:"film_life_layers" required:"false" exclusiveMinimum:"0"`
	LightPrice       *float64 `json:"light_price" required:"false" minimum:"0"`
	LightLifeH       *float64 `json:"light_life_h" required:"false" exclusiveMinimum:"0"`
	SuppliedBy       string   `json:"supplied_by"`
	Notes            string   `json:"notes"`
	CellExposure     string   `json:"cell_exposure" required:"false" enum:"none,together,in_turn"`
	ClaimedMMH       *float64 `json:"claimed_mm_h" required:"false" exclusiveMinimum:"0"`
	QuirkFiles       string   `json:"quirk_files" required:"false"`
	QuirkRestart     string   `json:"quirk_restart" required:"false"`
	QuirkHeight      string   `json:"quirk_height" required:"false"`
	QuirkSettings    string   `json:"quirk_settings" required:"false"`
	QuirkFilms       string   `json:"quirk_films" required:"false"`
	// NotKnown are conditions that this machine never tells: it has no thermometer.
	NotKnown    IDs         `json:"not_known" required:"false"`
	QuirkFaults QuirkFaults `json:"quirk_faults" required:"false"`
}

// QuirkFault is a fault that this machine is known for: its symptom, what is known of
// it, and what is done against it, since when.
type QuirkFault struct {
	Symptom    string `json:"symptom" minLength:"1"`
	Text       string `json:"text" minLength:"1"`
	Workaround string `json:"workaround" required:"false"`
	SinceMS    *int64 `json:"since_ms" required:"false"`
}

// QuirkFaults are the faults that a quirk card names.
type QuirkFaults []QuirkFault

// Value stores the faults as JSON text.
func (q QuirkFaults) Value() (driver.Value, error) { return listValue(q) }

// Scan reads what Value stored.
func (q *QuirkFaults) Scan(from any) error { return scanList(from, q) }

// NeverKnown reports a condition that this machine never tells.
func (m Machine) NeverKnown(condition string) bool { return slices.Contains(m.NotKnown, condition) }

// Usual gives settings the machine's usual moves and waits, which are where new ones
// begin. A laser has none, and hidden settings are given none.
func (m Machine) Usual(p *Profile) {
	if m.LightEngine == Laser || p.Basis == "sealed" {
		return
	}
	p.Lift, p.Retract, p.ReleaseS = slices.Clone(m.Lift), slices.Clone(m.Retract), m.ReleaseS
	p.WaitBeforeS, p.WaitAfterS, p.WaitLiftS = &m.WaitBeforeS, &m.WaitAfterS, &m.WaitLiftS
}

// MachineEvent is a knot on a machine's cord: one or several things that happened to
// it at once. FilmLayers and LightH are what the machine's own counters showed then;
// UnknownBefore says that nobody knows what a part that was put in had seen. A knot
// that was retired stays on record, with the reason, and counts no more.
type MachineEvent struct {
	ID            string   `json:"id" required:"false" readOnly:"true"`
	MachineID     string   `json:"machine_id" minLength:"1"`
	AtMS          int64    `json:"at_ms"`
	Kinds         IDs      `json:"kinds" minItems:"1" enum:"film,panel,relevel,zero,move,vat,vat_clean,firmware,upgrade,light_calibration,filter,plate_surface,accessory_on,accessory_off,surroundings,counter,incident,stands"`
	Note          string   `json:"note"`
	CreatedMS     int64    `json:"created_ms" required:"false" readOnly:"true"`
	Changes       Changes  `json:"changes" required:"false"`
	FilmLayers    *float64 `json:"film_layers" required:"false" minimum:"0"`
	LightH        *float64 `json:"light_h" required:"false" minimum:"0"`
	UnknownBefore bool     `json:"unknown_before" required:"false"`
	ResinID       *string  `json:"resin_id" required:"false"`
	Version       int64    `json:"version" required:"false"`
	RetiredMS     *int64   `json:"retired_ms" required:"false" readOnly:"true"`
	RetiredWhy    string   `json:"retired_why" required:"false" readOnly:"true"`
	// ClaimedTimePct is how long a print is claimed to take since, in per cent of before.
	ClaimedTimePct *float64 `json:"claimed_time_pct" required:"false" exclusiveMinimum:"0"`
}

// Check says what makes no sense about a knot.
func (e MachineEvent) Check() error {
	var c quantity.Checks
	if len(e.Kinds) == 0 {
		c.Fail("kinds", "is empty; say what happened")
	}
	for i, change := range e.Changes {
		if change.What == "" {
			c.Fail(fmt.Sprintf("changes[%d].what", i), "is missing; name what changed")
		}
	}
	if slices.Contains(e.Kinds, "counter") && e.FilmLayers == nil && e.LightH == nil && !e.UnknownBefore {
		c.Fail("film_layers", "is missing; say what the counter showed, in layers or hours")
	}
	if slices.Contains(e.Kinds, machine.Vat) && e.ResinID == nil {
		c.Fail("resin_id", "is missing; say which resin the vat holds")
	}
	for _, kind := range []string{machine.AccessoryOn, machine.AccessoryOff} {
		if slices.Contains(e.Kinds, kind) && !slices.ContainsFunc(e.Changes, func(x Change) bool { return x.What == machine.Accessory && x.To != "" }) {
			c.Fail("changes", "names no accessory; say what was put on or taken off")
		}
	}
	if slices.Contains(e.Kinds, machine.Stands) && !slices.ContainsFunc(e.Changes, func(x Change) bool {
		return strings.EqualFold(x.What, machine.RoomName) && strings.TrimSpace(x.To) != ""
	}) {
		c.Fail("changes", "names no room; say which room it stands in")
	}
	return c.Err()
}

// Knot is the event as the rules of a machine's condition take it.
func (e MachineEvent) Knot() machine.Knot {
	k := machine.Knot{AtMS: e.AtMS, Kinds: e.Kinds, FilmLayers: e.FilmLayers, LightH: e.LightH, UnknownBefore: e.UnknownBefore, ResinID: quantity.Or(e.ResinID, "")}
	for _, c := range e.Changes {
		k.Changes = append(k.Changes, machine.Change{What: c.What, To: c.To, From: c.From})
	}
	return k
}

// Words names what happened, as people say it.
func (e MachineEvent) Words() string {
	return say.Words(say.List(e.Kinds))
}
