package bench

import "database/sql/driver"

// Profile is a set of settings for a machine, resin and layer height. What it sets is
// never changed once written: a change makes a new one with this as parent. Whatever
// the maker hides (basis sealed) is nil: nothing is made up for it. The settings of a
// series (basis series) have no exposure of their own, since each cell has its.
type Profile struct {
	ID               string   `json:"id" required:"false" readOnly:"true"`
	Code             string   `json:"code" required:"false" readOnly:"true"`
	CreatedMS        int64    `json:"created_ms" required:"false" readOnly:"true"`
	MachineID        string   `json:"machine_id" minLength:"1"`
	ResinID          string   `json:"resin_id" minLength:"1"`
	LayerUM          float64  `json:"layer_um" exclusiveMinimum:"0"`
	ExposureS        *float64 `json:"exposure_s" required:"false" exclusiveMinimum:"0"`
	BottomLayers     *int64   `json:"bottom_layers" required:"false" minimum:"0"`
	BottomExposureS  *float64 `json:"bottom_exposure_s" required:"false" exclusiveMinimum:"0"`
	TransitionLayers *int64   `json:"transition_layers" required:"false" minimum:"0"`
	Antialiasing     string   `json:"antialiasing"`
	Basis            string   `json:"basis" enum:"default,calibrated,borrowed,adjusted,own,sealed,series"`
	SealedName       string   `json:"sealed_name"`
	SeriesID         *string  `json:"series_id" required:"false"`
	ParentID         *string  `json:"parent_id" required:"false"`
	Note             string   `json:"note"`
	Name             string   `json:"name" required:"false"`
	Lift             Moves    `json:"lift" required:"false"`
	Retract          Moves    `json:"retract" required:"false"`
	ReleaseS         *float64 `json:"release_s" required:"false" minimum:"0"`
	WaitBeforeS      *float64 `json:"wait_before_s" required:"false" minimum:"0"`
	WaitAfterS       *float64 `json:"wait_after_s" required:"false" minimum:"0"`
	WaitLiftS        *float64 `json:"wait_lift_s" required:"false" minimum:"0"`
	LightPowerPct    *float64 `json:"light_power_pct" required:"false" exclusiveMinimum:"0" maximum:"200"`
	// Options are further values, named as the machine or the program shows them.
	Options     Options `json:"options" required:"false"`
	Version     int64   `json:"version" required:"false"`
	ArchivedMS  *int64  `json:"archived_ms" required:"false" readOnly:"true"`
	ArchivedWhy string  `json:"archived_why" required:"false" readOnly:"true"`
	// TemplateSinceMS is since when new settings of the machine begin with these; of several that
	// were so declared the last counts. Nil for others.
	TemplateSinceMS *int64 `json:"template_since_ms" required:"false" readOnly:"true"`
}

// Option is a named value of settings with its unit, such as blur 2 px.
type Option struct {
	Name  string `json:"name" minLength:"1"`
	Value string `json:"value"`
	Unit  string `json:"unit" required:"false"`
}

// Options are the further values of settings.
type Options []Option

// Value stores the options as JSON text.
func (o Options) Value() (driver.Value, error) { return listValue(o) }

// Scan reads what Value stored.
func (o *Options) Scan(from any) error { return scanList(from, o) }

// Series is an exposure search on one machine, resin and layer height.
type Series struct {
	ID               string  `json:"id" required:"false" readOnly:"true"`
	Code             string  `json:"code" required:"false" readOnly:"true"`
	Version          int64   `json:"version" required:"false"`
	CreatedMS        int64   `json:"created_ms" required:"false" readOnly:"true"`
	MachineID        string  `json:"machine_id" minLength:"1"`
	ResinID          string  `json:"resin_id" minLength:"1"`
	LayerUM          float64 `json:"layer_um" exclusiveMinimum:"0"`
	School           string  `json:"school" enum:"fit,detail,survival"`
	BottomLayers     int64   `json:"bottom_layers" minimum:"0"`
	BottomExposureS  float64 `json:"bottom_exposure_s" exclusiveMinimum:"0"`
	TransitionLayers int64   `json:"transition_layers" minimum:"0"`
	Origin           string  `json:"origin"`
	ProfileID        *string `json:"profile_id" required:"false"`
	PieceID          *string `json:"piece_id" required:"false"`
}

// Cell is one coupon of a series, by the number raised on it.
type Cell struct {
	ID        string  `json:"id" required:"false" readOnly:"true"`
	SeriesID  string  `json:"series_id"`
	Number    int64   `json:"number" minimum:"1"`
	ExposureS float64 `json:"exposure_s" exclusiveMinimum:"0"`
}

// CellReading is what was judged on a cell; the last one counts, nil is "not
// judged". Errors are measured − nominal.
type CellReading struct {
	ID            string   `json:"id" required:"false" readOnly:"true"`
	CellID        string   `json:"cell_id"`
	RecordedMS    int64    `json:"recorded_ms" required:"false" readOnly:"true"`
	Survived      *bool    `json:"survived" required:"false"`
	SmallestPinMM *float64 `json:"smallest_pin_mm" required:"false" exclusiveMinimum:"0"`
	SmallestGapMM *float64 `json:"smallest_gap_mm" required:"false" exclusiveMinimum:"0"`
	OuterErrorMM  *float64 `json:"outer_error_mm" required:"false"`
	InnerErrorMM  *float64 `json:"inner_error_mm" required:"false"`
	FeaturesOK    *int64   `json:"features_ok" required:"false" minimum:"0"`
	FeaturesTotal *int64   `json:"features_total" required:"false" minimum:"1"`
}
