// Package audit weighs whether two sides of a comparison are comparable: it
// names each condition that differs, and what that may have done to which
// figure, before any figure is shown.
package audit

// Questions that a comparison may answer.
const (
	Detail    = "detail"
	Dimension = "dimension"
	Time      = "time"
	Failure   = "failure"
	Finish    = "finish"
	Cost      = "cost"
)

// Questions lists all of them.
var Questions = []string{Detail, Dimension, Time, Failure, Finish, Cost}

// Conditions are those of one side; nil is "not known". Words that are
// compared as given (names, orientation, supports, anti-aliasing) may be text,
// numbers or true|false.
type Conditions struct {
	Process         *string  `json:"process,omitempty"`
	LayerUM         *float64 `json:"layer_um,omitempty"`
	ScalePct        *float64 `json:"scale_pct,omitempty"`
	Piece           any      `json:"piece,omitempty"`
	PieceRevision   any      `json:"piece_revision,omitempty"`
	Resin           any      `json:"resin,omitempty"`
	BottleAgeDays   *float64 `json:"bottle_age_days,omitempty"`
	BottleExpired   *bool    `json:"bottle_expired,omitempty"`
	ExposureBasis   *string  `json:"exposure_basis,omitempty"`
	FilmLayers      *float64 `json:"film_layers,omitempty"`
	FilmClouded     *bool    `json:"film_clouded,omitempty"`
	DaysSinceLevel  *float64 `json:"days_since_level,omitempty"`
	MovedSinceLevel *bool    `json:"moved_since_level,omitempty"`
	ResinTempC      *float64 `json:"resin_temp_c,omitempty"`
	Orientation     any      `json:"orientation,omitempty"`
	Supports        any      `json:"supports,omitempty"`
	Antialiasing    any      `json:"antialiasing,omitempty"`
	WashS           *float64 `json:"wash_s,omitempty"`
	CureS           *float64 `json:"cure_s,omitempty"`
	Surface         *string  `json:"surface,omitempty"`
	Software        any      `json:"software,omitempty"`
	Copies          *int64   `json:"copies,omitempty"`
	Specimens       *int64   `json:"specimens,omitempty"`
}

// rule says how one factor is weighed. Differences above minorOver (or any,
// where anyMinor) are minor, above majorOver (or any) major; zero thresholds
// do not apply. flag is the condition that is major when set on one side only.
type rule struct {
	factor    string
	label     string
	unit      string
	value     func(Conditions) any
	questions []string
	anyMinor  bool
	anyMajor  bool
	minorOver float64
	majorOver float64
	ratioOver float64
	flag      func(Conditions) *bool
	flagLabel string
	effect    string
}

var exceptCost = []string{Detail, Dimension, Time, Failure, Finish}

// rules is the table of factors in its order; a nil list of questions means
// all. Source: the audit table of the computation.
var rules = []rule{
	{factor: "layer_um", label: "Layer height", unit: " µm", value: func(c Conditions) any { return number(c.LayerUM) },
		anyMajor: true, questions: exceptCost, effect: "it sets steps, layer count and peel, so it may explain all of the difference"},
	{factor: "scale_pct", label: "Scale", unit: " %", value: func(c Conditions) any { return number(c.ScalePct) },
		anyMajor: true, effect: "features, areas and volumes are not the same size, so these are different tests"},
	{factor: "piece", label: "Piece", value: func(c Conditions) any { return c.Piece },
		anyMajor: true, effect: "these are different tests"},
	{factor: "piece_revision", label: "Piece revision", value: func(c Conditions) any { return c.PieceRevision },
		anyMajor: true, effect: "the mesh may have changed where it is read"},
	{factor: "resin", label: "Resin", value: func(c Conditions) any { return c.Resin },
		anyMajor: true, effect: "resin and machine cannot be told apart"},
	{factor: "bottle_age_days", label: "Days since the bottle was opened", value: func(c Conditions) any { return number(c.BottleAgeDays) },
		minorOver: 90, flag: func(c Conditions) *bool { return c.BottleExpired }, flagLabel: "past its expiry date",
		questions: []string{Detail, Failure, Finish}, effect: "old resin settles and needs more light, so thin parts may fail"},
	{factor: "exposure_basis", label: "Exposure basis", value: func(c Conditions) any { return text(c.ExposureBasis) },
		anyMinor: true, questions: []string{Detail, Dimension, Failure}, effect: "one side may be nearer its best setting than the other"},
	{factor: "film_layers", label: "Layers on the film", value: func(c Conditions) any { return number(c.FilmLayers) },
		minorOver: 20000, flag: func(c Conditions) *bool { return c.FilmClouded }, flagLabel: "clouded",
		questions: []string{Detail, Failure, Dimension}, effect: "a worn film scatters light and peels harder"},
	{factor: "days_since_level", label: "Days since levelling", value: func(c Conditions) any { return number(c.DaysSinceLevel) },
		minorOver: 30, flag: func(c Conditions) *bool { return c.MovedSinceLevel }, flagLabel: "moved since levelling",
		questions: []string{Dimension, Failure}, effect: "a tilted plate changes the first layers, Z sizes and adhesion"},
	{factor: "resin_temp_c", label: "Resin temperature", unit: " °C", value: func(c Conditions) any { return number(c.ResinTempC) },
		minorOver: 3, majorOver: 6, questions: exceptCost, effect: "warm resin flows and cures more, so exposure acts stronger"},
	{factor: "orientation", label: "Orientation", value: func(c Conditions) any { return c.Orientation },
		anyMinor: true, questions: []string{Detail, Time, Failure, Finish}, effect: "steps fall elsewhere and the height may differ"},
	{factor: "supports", label: "Supports", value: func(c Conditions) any { return c.Supports },
		anyMinor: true, questions: []string{Detail, Time, Failure, Finish}, effect: "hold, scars and resin differ"},
	{factor: "antialiasing", label: "Anti-aliasing", value: func(c Conditions) any { return c.Antialiasing },
		anyMinor: true, questions: []string{Detail, Finish}, effect: "it softens edges and thin parts"},
	{factor: "wash_s", label: "Wash", unit: " s", value: func(c Conditions) any { return number(c.WashS) },
		ratioOver: 1.5, questions: []string{Dimension, Finish}, effect: "solvent swells, residue thickens"},
	{factor: "cure_s", label: "Cure", unit: " s", value: func(c Conditions) any { return number(c.CureS) },
		ratioOver: 1.5, questions: []string{Dimension, Finish}, effect: "curing shrinks and hardens"},
	{factor: "surface", label: "Surface", value: func(c Conditions) any { return text(c.Surface) },
		anyMajor: true, questions: []string{Detail, Finish}, effect: "raw plastic looks worse than the same part primed"},
	{factor: "software", label: "Software", value: func(c Conditions) any { return c.Software },
		anyMinor: true, questions: []string{Time, Failure}, effect: "slicing and its defaults differ"},
	{factor: "copies", label: "Copies on the plate", value: func(c Conditions) any { return count(c.Copies) },
		anyMinor: true, questions: []string{Time, Cost}, effect: "a full plate and a single piece are different contests"},
	{factor: "specimens", label: "Specimens", value: func(c Conditions) any { return count(c.Specimens) }},
}

// Factors lists the factors in the order of the table.
func Factors() []string {
	out := make([]string, len(rules))
	for i, r := range rules {
		out[i] = r.factor
	}
	return out
}

func number(v *float64) any {
	if v == nil {
		return nil
	}
	return *v
}

func count(v *int64) any {
	if v == nil {
		return nil
	}
	return float64(*v)
}

func text(v *string) any {
	if v == nil {
		return nil
	}
	return *v
}
