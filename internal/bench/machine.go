package bench

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
}

// MachineEvent is a knot on a machine's cord: what changed it between runs.
type MachineEvent struct {
	ID        string  `json:"id" required:"false" readOnly:"true"`
	MachineID string  `json:"machine_id" minLength:"1"`
	AtMS      int64   `json:"at_ms"`
	Kind      string  `json:"kind" enum:"film,panel,relevel,zero,move,vat_clean,firmware,upgrade,light_calibration,filter,incident"`
	Note      string  `json:"note"`
	CreatedMS int64   `json:"created_ms" required:"false" readOnly:"true"`
	Changes   Changes `json:"changes" required:"false"`
}
