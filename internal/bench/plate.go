package bench

// Plate is a plan of one print: the machine and settings, what lies where, and
// the resin in the vat before it starts. A plate of a series has no profile yet:
// its cells have exposures of their own. Lengths in mm, volumes in ml.
type Plate struct {
	ID                string   `json:"id" required:"false" readOnly:"true"`
	Code              string   `json:"code" required:"false" readOnly:"true"`
	Version           int64    `json:"version" required:"false"`
	CreatedMS         int64    `json:"created_ms" required:"false" readOnly:"true"`
	Name              string   `json:"name" minLength:"1"`
	MachineID         string   `json:"machine_id" minLength:"1"`
	ProfileID         *string  `json:"profile_id" required:"false"`
	BottleID          *string  `json:"bottle_id" required:"false"`
	SeriesID          *string  `json:"series_id" required:"false"`
	MarginMM          float64  `json:"margin_mm" minimum:"0"`
	SpacingMM         float64  `json:"spacing_mm" minimum:"0"`
	OverlapAllowed    bool     `json:"overlap_allowed"`
	VatFillML         *float64 `json:"vat_fill_ml" required:"false" minimum:"0"`
	DripML            float64  `json:"drip_ml" minimum:"0"`
	LiquidRatio       float64  `json:"liquid_ratio" exclusiveMinimum:"0"`
	Software          string   `json:"software"`
	SoftwareEstimateS *float64 `json:"software_estimate_s" required:"false" exclusiveMinimum:"0"`
	// Orientation, Supports, WashS and CureS are how it is to be prepared and treated; the
	// print that is made of it takes them over.
	Orientation *string  `json:"orientation" required:"false"`
	Supports    *string  `json:"supports" required:"false"`
	WashS       *float64 `json:"wash_s" required:"false" minimum:"0"`
	CureS       *float64 `json:"cure_s" required:"false" minimum:"0"`
	// ReviewPlanID is the plan of a review that it belongs to, PlanTurn which print of its
	// machine it is there.
	ReviewPlanID *string `json:"review_plan_id" required:"false" readOnly:"true"`
	PlanTurn     *int64  `json:"plan_turn" required:"false" readOnly:"true"`
	ArchivedMS   *int64  `json:"archived_ms" required:"false" readOnly:"true"`
	ArchivedWhy  string  `json:"archived_why" required:"false" readOnly:"true"`
}

// Open reports a plate that may still be printed: it was not withdrawn.
func (p Plate) Open() bool { return p.ArchivedMS == nil }

// ReviewPlan is how the prints that a review lacked were drawn: Seed repeats the order,
// Prints is how many of each combination were aimed at, Says what the draw told.
type ReviewPlan struct {
	ID        string `json:"id" required:"false" readOnly:"true"`
	CreatedMS int64  `json:"created_ms" required:"false" readOnly:"true"`
	ReviewID  string `json:"review_id" minLength:"1"`
	Seed      int64  `json:"seed" minimum:"0"`
	Prints    int64  `json:"prints" minimum:"1"`
	Says      Notes  `json:"says"`
}

// Placement is one copy on a plate: the middle of its box in mm from the front
// left corner, as the plate lies before you. Number is the one raised on a
// coupon, ExposureS its cell's where cells of one plate differ.
type Placement struct {
	ID        string   `json:"id" required:"false" readOnly:"true"`
	PlateID   string   `json:"plate_id" required:"false" readOnly:"true"`
	Position  int64    `json:"position" required:"false" readOnly:"true"`
	PieceID   string   `json:"piece_id" minLength:"1"`
	ScalePct  float64  `json:"scale_pct" exclusiveMinimum:"0"`
	XMM       float64  `json:"x_mm"`
	YMM       float64  `json:"y_mm"`
	TurnDeg   float64  `json:"turn_deg"`
	Number    *int64   `json:"number" required:"false"`
	ExposureS *float64 `json:"exposure_s" required:"false"`
}
