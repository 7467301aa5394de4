package bench

import "fmt"

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
	// EndedHow is empty while a run has not ended.
	EndedHow string  `json:"ended_how" required:"false" enum:",finished,stopped"`
	PausedS  float64 `json:"paused_s" required:"false" readOnly:"true" minimum:"0"`
}

// Ways in which a print ends.
const (
	EndFinished = "finished" // it printed to its last layer
	EndStopped  = "stopped"  // it was ended before, or broke off
)

// Took is how long a print took in s, pauses left out; nil with a reason where that
// is not known. One that was stopped took no time that means anything: it enters no
// mean, no bias and no model.
type Took struct {
	S      *float64 `json:"s"`
	Reason string   `json:"reason"`
}

// Took tells a run's time, or why it has none.
func (r Run) Took() Took {
	switch {
	case r.SpeedUp != nil:
		return Took{Reason: fmt.Sprintf("a stand-in printed it at %g times the speed, so nothing was measured", *r.SpeedUp)}
	case r.EndedMS == nil:
		return Took{Reason: "its end is not on record"}
	case r.EndedHow == EndStopped:
		return Took{Reason: "it was stopped before its end"}
	case r.ClockWentBack:
		return Took{Reason: "the clock went back while it printed"}
	}
	took := float64(*r.EndedMS-r.StartedMS)/1000 - r.PausedS
	if took <= 0 {
		return Took{Reason: "its pauses are longer than the print; check its times"}
	}
	return Took{S: &took}
}

// TookS is Took without the reason.
func (r Run) TookS() *float64 { return r.Took().S }

// minuteMS is what forms show of an instant.
const minuteMS = 60 * 1000

// Amended is a run as a form sends it back, with what the form does not show as
// it stands on record: the plan it came from, what was foretold, how the vat was
// filled, whether a stand-in printed it, and instants to the millisecond where
// the minute shown was left alone. How a print ended that was told event by event
// stays as it was told.
func Amended(old, form Run, byEvents bool) Run {
	form.PreparedMS, form.PlateID = old.PreparedMS, old.PlateID
	form.Prediction, form.PredictionFailPct, form.VatFillML = old.Prediction, old.PredictionFailPct, old.VatFillML
	form.SpeedUp, form.ClockWentBack, form.PausedS = old.SpeedUp, old.ClockWentBack, old.PausedS
	if byEvents {
		form.EndedHow = old.EndedHow
	}
	if form.StartedMS/minuteMS == old.StartedMS/minuteMS {
		form.StartedMS = old.StartedMS
	}
	if form.EndedMS != nil && old.EndedMS != nil && *form.EndedMS/minuteMS == *old.EndedMS/minuteMS {
		form.EndedMS = old.EndedMS
	}
	return form
}

// Ended says how a run ended that says when: to its last layer unless it says
// otherwise. One that has not ended did so in no way.
func (r Run) Ended() string {
	switch {
	case r.EndedMS == nil:
		return ""
	case r.EndedHow == "":
		return EndFinished
	}
	return r.EndedHow
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
