package bench

import "ojime/internal/core/quantity"

// Run is one print job with the conditions it was made under; nil is "not
// known", which is an answer. Our estimate, the seconds of light and the layers
// are computed when the run is saved, with the model that gave them.
type Run struct {
	ID                string   `json:"id" required:"false" readOnly:"true"`
	Code              string   `json:"code" required:"false" readOnly:"true"`
	Version           int64    `json:"version" required:"false"`
	CreatedMS         int64    `json:"created_ms" required:"false" readOnly:"true"`
	MachineID         string   `json:"machine_id" minLength:"1"`
	ResinID           string   `json:"resin_id" minLength:"1"`
	BottleID          *string  `json:"bottle_id" required:"false"`
	ProfileID         string   `json:"profile_id" minLength:"1"`
	PieceID           string   `json:"piece_id" minLength:"1"`
	Copies            int64    `json:"copies" minimum:"1"`
	StartedMS         int64    `json:"started_ms"`
	EndedMS           *int64   `json:"ended_ms" required:"false"`
	Software          *string  `json:"software"`
	SoftwareEstimateS *float64 `json:"software_estimate_s" exclusiveMinimum:"0"`
	OurEstimateS      *float64 `json:"our_estimate_s" required:"false" readOnly:"true"`
	LightOnS          *float64 `json:"light_on_s" required:"false" readOnly:"true" minimum:"0"`
	Layers            int64    `json:"layers" required:"false" readOnly:"true"`
	EstimateModel     string   `json:"estimate_model" required:"false" readOnly:"true"`
	ResinUsedG        *float64 `json:"resin_used_g" exclusiveMinimum:"0"`
	AttendedMin       *float64 `json:"attended_min" minimum:"0"`
	RoomTempC         *float64 `json:"room_temp_c"`
	ResinTempC        *float64 `json:"resin_temp_c"`
	FilmLayers        *float64 `json:"film_layers" minimum:"0"`
	FilmClouded       *bool    `json:"film_clouded"`
	DaysSinceLevel    *float64 `json:"days_since_level" minimum:"0"`
	MovedSinceLevel   *bool    `json:"moved_since_level"`
	Orientation       *string  `json:"orientation"`
	Supports          *string  `json:"supports"`
	ScalePct          *float64 `json:"scale_pct" exclusiveMinimum:"0"`
	WashS             *float64 `json:"wash_s" minimum:"0"`
	CureS             *float64 `json:"cure_s" minimum:"0"`
	Surface           *string  `json:"surface" enum:"raw,primed,painted"`
	Notes             string   `json:"notes"`
	PlateID           *string  `json:"plate_id" required:"false"`
	PreparedMS        *int64   `json:"prepared_ms" required:"false" readOnly:"true"`
	VatFillML         *float64 `json:"vat_fill_ml" required:"false" minimum:"0"`
	Prediction        string   `json:"prediction" required:"false"`
	PredictionFailPct *float64 `json:"prediction_fail_pct" required:"false" minimum:"0" maximum:"100"`
	SpeedUp           *float64 `json:"speed_up" required:"false" readOnly:"true" exclusiveMinimum:"0"`
	// ClockWentBack says that an event of the print lies before the one it followed:
	// no time of it can be believed.
	ClockWentBack bool `json:"clock_went_back" required:"false" readOnly:"true"`
}

// TookS is how long a print took, nil while that is not known, where the clock
// went back meanwhile, and for a stand-in's, whose clock is not the world's.
func (r Run) TookS() *float64 {
	if r.EndedMS == nil || r.SpeedUp != nil || r.ClockWentBack {
		return nil
	}
	return quantity.Ptr(float64(*r.EndedMS-r.StartedMS) / 1000)
}

// minuteMS is what forms show of an instant.
const minuteMS = 60 * 1000

// Amended is a run as a form sends it back, with what the form does not show as
// it stands on record: the plan it came from, what was foretold, how the vat was
// filled, whether a stand-in printed it, and instants to the millisecond where
// the minute shown was left alone.
func Amended(old, form Run) Run {
	form.PreparedMS, form.PlateID = old.PreparedMS, old.PlateID
	form.Prediction, form.PredictionFailPct, form.VatFillML = old.Prediction, old.PredictionFailPct, old.VatFillML
	form.SpeedUp, form.ClockWentBack = old.SpeedUp, old.ClockWentBack
	if form.StartedMS/minuteMS == old.StartedMS/minuteMS {
		form.StartedMS = old.StartedMS
	}
	if form.EndedMS != nil && old.EndedMS != nil && *form.EndedMS/minuteMS == *old.EndedMS/minuteMS {
		form.EndedMS = old.EndedMS
	}
	return form
}

// Specimen is one printed copy with its code and what became of it. Only an
// origin of printed (or unknown) counts against machine or resin.
type Specimen struct {
	ID        string   `json:"id" required:"false" readOnly:"true"`
	RunID     string   `json:"run_id"`
	Copy      int64    `json:"copy" minimum:"1"`
	Code      string   `json:"code" required:"false" readOnly:"true"`
	Outcome   string   `json:"outcome" enum:"pending,whole,micro_defect,lost"`
	Symptom   string   `json:"symptom"`
	Origin    string   `json:"origin" enum:"printed,removal,wash,supports,handling,unknown"`
	Fault     string   `json:"fault" enum:"none,machine,resin,file,operator,unknown"`
	Note      string   `json:"note"`
	PieceID   *string  `json:"piece_id" required:"false"`
	XMM       *float64 `json:"x_mm" required:"false"`
	YMM       *float64 `json:"y_mm" required:"false"`
	TurnDeg   *float64 `json:"turn_deg" required:"false"`
	ExposureS *float64 `json:"exposure_s" required:"false"`
	// Severity, and the layer or height where a defect began, are asked of what is
	// not whole.
	Severity    string   `json:"severity" required:"false" enum:",slight,plain,grave"`
	BeganLayer  *int64   `json:"began_layer" required:"false" minimum:"1"`
	BeganMM     *float64 `json:"began_mm" required:"false" minimum:"0"`
	SwappedWith string   `json:"swapped_with" required:"false" readOnly:"true"`
	Version     int64    `json:"version" required:"false"`
}

// Reading is one value of a specimen's feature: a size, a rung of a ladder, or
// the state of a checkpoint. A correction points to what it corrects.
type Reading struct {
	ID           string   `json:"id" required:"false" readOnly:"true"`
	SpecimenID   string   `json:"specimen_id"`
	FeatureID    string   `json:"feature_id"`
	InstrumentID *string  `json:"instrument_id" required:"false"`
	RecordedMS   int64    `json:"recorded_ms" required:"false" readOnly:"true"`
	ValueMM      *float64 `json:"value_mm" required:"false" exclusiveMinimum:"0"`
	RungMM       *float64 `json:"rung_mm" required:"false" exclusiveMinimum:"0"`
	Intact       *bool    `json:"intact" required:"false"`
	State        *string  `json:"state" required:"false" enum:"present,damaged,missing"`
	CorrectsID   *string  `json:"corrects_id" required:"false"`
}
