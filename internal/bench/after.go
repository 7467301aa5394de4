package bench

import (
	"database/sql/driver"

	"ojime/internal/core/quantity"
)

// ProcessStep is something done to a print after it, with its time. EndedMS is
// nil while its timer runs. Effort (1 falls off by itself … 5 needs cutters) and
// Scars are of taking supports off.
type ProcessStep struct {
	ID        string   `json:"id" required:"false"`
	RunID     string   `json:"run_id" required:"false" readOnly:"true"`
	Kind      string   `json:"kind" enum:"drip,wash,dry,supports,cure"`
	StartedMS int64    `json:"started_ms" required:"false"`
	EndedMS   *int64   `json:"ended_ms" required:"false"`
	PlannedS  *float64 `json:"planned_s" required:"false" exclusiveMinimum:"0"`
	BathID    *string  `json:"bath_id" required:"false"`
	How       string   `json:"how" required:"false"`
	Effort    *int64   `json:"effort" required:"false" minimum:"1" maximum:"5"`
	Scars     string   `json:"scars" required:"false" enum:",none,light,deep"`
	Note      string   `json:"note" required:"false"`
}

// TookS is how long a step lasted, nil while it goes on.
func (s ProcessStep) TookS() *float64 {
	if s.EndedMS == nil {
		return nil
	}
	return quantity.Ptr(float64(*s.EndedMS-s.StartedMS) / 1000)
}

// Check says what makes no sense about a step.
func (s ProcessStep) Check() error {
	var c quantity.Checks
	c.AboveIf("planned_s", s.PlannedS)
	if s.BathID != nil && s.Kind != "wash" {
		c.Fail("bath_id", "is given for %s; only a wash has a bath", s.Kind)
	}
	if s.EndedMS != nil && *s.EndedMS < s.StartedMS {
		c.Fail("ended_ms", "lies before the start; check day and time")
	}
	return c.Err()
}

// Bath is a tub of solvent or water and when it was last filled afresh.
type Bath struct {
	ID         string   `json:"id" required:"false" readOnly:"true"`
	Code       string   `json:"code" required:"false" readOnly:"true"`
	Version    int64    `json:"version" required:"false"`
	CreatedMS  int64    `json:"created_ms" required:"false" readOnly:"true"`
	Name       string   `json:"name" minLength:"1"`
	Solvent    string   `json:"solvent" minLength:"1"`
	VolumeML   *float64 `json:"volume_ml" required:"false" exclusiveMinimum:"0"`
	FilledMS   int64    `json:"filled_ms" required:"false"`
	LifePrints *int64   `json:"life_prints" required:"false" minimum:"1"`
	Notes      string   `json:"notes" required:"false"`
}

// Waste is a line of the waste ledger.
type Waste struct {
	ID     string  `json:"id" required:"false" readOnly:"true"`
	AtMS   int64   `json:"at_ms" required:"false"`
	Kind   string  `json:"kind" enum:"solvent,wash_water,resin,scrap,filter,wipes"`
	Amount float64 `json:"amount" exclusiveMinimum:"0"`
	Unit   string  `json:"unit" required:"false" readOnly:"true" enum:"ml,g,pieces"`
	RunID  *string `json:"run_id" required:"false"`
	BathID *string `json:"bath_id" required:"false"`
	WentTo string  `json:"went_to"`
	Note   string  `json:"note" required:"false"`
}

// WasteUnit is what a kind of waste is counted in.
func WasteUnit(kind string) string {
	switch kind {
	case "solvent", "wash_water", "resin":
		return "ml"
	case "scrap":
		return "g"
	}
	return "pieces"
}

// BottleEvent is something that happened to a bottle: opened, weighed (GrossG is
// bottle and content on the scale), poured back into (ML from a vat), mixed with
// another (Other names it), coloured (Other says with what) or emptied.
type BottleEvent struct {
	ID       string   `json:"id" required:"false" readOnly:"true"`
	BottleID string   `json:"bottle_id" required:"false" readOnly:"true"`
	AtMS     int64    `json:"at_ms" required:"false"`
	Kind     string   `json:"kind" enum:"opened,weighed,poured_back,mixed,coloured,emptied"`
	GrossG   *float64 `json:"gross_g" required:"false" exclusiveMinimum:"0"`
	Note     string   `json:"note" required:"false"`
	ML       *float64 `json:"ml" required:"false" exclusiveMinimum:"0"`
	Other    string   `json:"other" required:"false"`
}

// Reminder is what a machine asks to be done again and again. A contradicted one
// stays on record, with what was found instead, and no longer reminds.
type Reminder struct {
	ID             string  `json:"id" required:"false"`
	MachineID      string  `json:"machine_id" minLength:"1"`
	CreatedMS      int64   `json:"created_ms" required:"false" readOnly:"true"`
	Kind           string  `json:"kind" enum:"film,panel,relevel,zero,vat_clean,firmware,light_calibration,filter"`
	Every          float64 `json:"every" exclusiveMinimum:"0"`
	Unit           string  `json:"unit" enum:"layers,light_h,days,runs"`
	Source         string  `json:"source" enum:"maker,own"`
	Note           string  `json:"note" required:"false"`
	ContradictedMS *int64  `json:"contradicted_ms" required:"false" readOnly:"true"`
	Contradiction  string  `json:"contradiction" required:"false"`
}

// Change is one thing that a knot changed. Undoable says that it can be put
// back by itself, which is what tells its effect from the others'.
type Change struct {
	What     string `json:"what" minLength:"1"`
	From     string `json:"from"`
	To       string `json:"to"`
	Undoable bool   `json:"undoable"`
}

// Changes are all that changed with one knot.
type Changes []Change

// Value stores the changes as JSON text.
func (c Changes) Value() (driver.Value, error) { return listValue(c) }

// Scan reads what Value stored; a knot from before changes were kept has none.
func (c *Changes) Scan(from any) error { return scanOptional(from, c) }
