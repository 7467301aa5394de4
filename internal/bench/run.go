package bench

import (
	"fmt"
	"strings"

	"ojime/internal/core/machine"
	"ojime/internal/core/outcome"
	"ojime/internal/core/quantity"
	"ojime/internal/say"
)

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
	Copies            int64    `json:"copies" required:"false" readOnly:"true" minimum:"0"`
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
	FilmClouded       *bool    `json:"film_clouded"`
	Orientation       *string  `json:"orientation"`
	Supports          *string  `json:"supports"`
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
	PausedS  float64 `json:"paused_s" required:"false" minimum:"0"`
	// LevelOff, FilmClouded and Observed are what was seen to differ; the rest of a
	// machine's condition is computed from its knots and prints.
	LevelOff *bool  `json:"level_off" required:"false"`
	Observed string `json:"observed" required:"false"`
	// StoppedLayer is how far a stopped print got.
	StoppedLayer *int64 `json:"stopped_layer" required:"false" minimum:"0"`
	// DialChanged says that a setting was changed while it printed: it does not count as
	// a print of its settings.
	DialChanged bool `json:"dial_changed" required:"false" readOnly:"true"`
	// EndConfirmed says that an unlikely time was asked about, and believed.
	EndConfirmed bool     `json:"end_confirmed" required:"false"`
	WornLayers   int64    `json:"worn_layers" required:"false" readOnly:"true"`
	WornLightS   *float64 `json:"worn_light_s" required:"false" readOnly:"true" minimum:"0"`
	AreaMM2      *float64 `json:"area_mm2" required:"false" readOnly:"true" minimum:"0" maximum:"1000000000000"`
	OutlineMM    *float64 `json:"outline_mm" required:"false" readOnly:"true" minimum:"0" maximum:"1000000000000"`
	Job          string   `json:"job" required:"false" readOnly:"true"`
	Shape        string   `json:"shape" required:"false" readOnly:"true" enum:"open,whole,nicked,split,ring"`
	// AgainOfID is the print that this one was made again of, AgainChange what was changed by
	// hand since; settings say themselves what differs.
	AgainOfID   *string `json:"again_of_id" required:"false" readOnly:"true"`
	AgainChange string  `json:"again_change" required:"false" readOnly:"true"`
	// HumidityPct is the relative humidity of the room; it, the temperatures and the heater follow
	// from the readings of the room where there are any.
	HumidityPct *float64 `json:"humidity_pct" required:"false" minimum:"0" maximum:"100"`
	HeaterOn    *bool    `json:"heater_on" required:"false"`
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
		return Took{Reason: fmt.Sprintf("a stand-in printed it at %s times the speed, so nothing was measured", say.Figures(*r.SpeedUp, 6))}
	case r.EndedMS == nil:
		return Took{Reason: "its end is not on record"}
	case r.EndedHow == EndStopped:
		return Took{Reason: r.stopped()}
	case r.ClockWentBack:
		return Took{Reason: "the clock went back while it printed"}
	}
	took := float64(*r.EndedMS-r.StartedMS)/1000 - r.PausedS
	if took <= 0 {
		return Took{Reason: "its pauses are longer than the print; check its times"}
	}
	return Took{S: &took}
}

// stopped says when and where a print was stopped, as far as the record knows.
func (r Run) stopped() string {
	words := "it was stopped before its end"
	if ran := float64(*r.EndedMS-r.StartedMS)/1000 - r.PausedS; ran > 0 && !r.ClockWentBack {
		words += ", after " + say.Duration(ran)
	}
	if r.StoppedLayer != nil {
		words += ", in layer " + say.Whole(float64(*r.StoppedLayer))
		if r.Layers > 0 {
			words += " of " + say.Whole(float64(r.Layers))
		}
	}
	return words
}

// NoSoftware stands for prints of which the software was not noted.
const NoSoftware = "not noted"

// SoftwareNoted is the software of the print, or NoSoftware.
func (r Run) SoftwareNoted() string { return quantity.Or(r.Software, NoSoftware) }

// TookS is Took without the reason.
func (r Run) TookS() *float64 { return r.Took().S }

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

// Wear derives what a run took of its machine: nothing while it has not ended or
// where a stand-in printed it, a part of one that was stopped.
func (r *Run) Wear() {
	r.WornLayers, r.WornLightS = 0, quantity.Ptr(0.0)
	if r.EndedMS == nil || r.SpeedUp != nil {
		return
	}
	share := 1.0
	if r.EndedHow == EndStopped {
		share = machine.StoppedShare(r.StoppedLayer, r.Layers, float64(*r.EndedMS-r.StartedMS)/1000-r.PausedS, r.OurEstimateS)
	}
	r.WornLayers, r.WornLightS = int64(quantity.Ceil(share*float64(r.Layers))), nil
	if r.LightOnS != nil {
		r.WornLightS = quantity.Ptr(share * *r.LightOnS)
	}
}

// Specimen is one printed copy of a piece with its code, what became of it and its
// defects. Failed, FailedBy, MicroPrinted and Accident are derived from them.
type Specimen struct {
	ID           string   `json:"id" required:"false" readOnly:"true"`
	RunID        string   `json:"run_id" required:"false" readOnly:"true"`
	Copy         int64    `json:"copy" required:"false" readOnly:"true" minimum:"1"`
	Code         string   `json:"code" required:"false" readOnly:"true"`
	Outcome      string   `json:"outcome" enum:"pending,whole,micro_defect,lost"`
	Note         string   `json:"note"`
	PieceID      string   `json:"piece_id" required:"false" readOnly:"true"`
	XMM          *float64 `json:"x_mm" required:"false" readOnly:"true"`
	YMM          *float64 `json:"y_mm" required:"false" readOnly:"true"`
	TurnDeg      *float64 `json:"turn_deg" required:"false" readOnly:"true"`
	ExposureS    *float64 `json:"exposure_s" required:"false" readOnly:"true"`
	SwappedWith  string   `json:"swapped_with" required:"false" readOnly:"true"`
	Version      int64    `json:"version" required:"false"`
	ScalePct     float64  `json:"scale_pct" required:"false" readOnly:"true" exclusiveMinimum:"0"`
	Failed       bool     `json:"failed" required:"false" readOnly:"true"`
	FailedBy     string   `json:"failed_by" required:"false" readOnly:"true"`
	MicroPrinted bool     `json:"micro_printed" required:"false" readOnly:"true"`
	Accident     bool     `json:"accident" required:"false" readOnly:"true"`
	Defects      []Defect `json:"defects" required:"false"`
}

// Defect is one thing that is wrong with a specimen. BeganLayer, and BeganMM from it,
// are where it began. One that was taken back stays on record and counts no more.
type Defect struct {
	ID           string   `json:"id" required:"false"`
	SpecimenID   string   `json:"specimen_id" required:"false" readOnly:"true"`
	Symptom      string   `json:"symptom" minLength:"1"`
	Severity     string   `json:"severity" required:"false" enum:",slight,plain,grave"`
	BeganLayer   *int64   `json:"began_layer" required:"false" minimum:"1"`
	BeganMM      *float64 `json:"began_mm" required:"false" minimum:"0"`
	Origin       string   `json:"origin" enum:"printed,removal,wash,supports,handling,unknown"`
	Fault        string   `json:"fault" enum:"none,machine,resin,file,operator,surroundings,unknown"`
	Note         string   `json:"note" required:"false"`
	AtMS         int64    `json:"at_ms" required:"false" readOnly:"true"`
	TakenBackMS  *int64   `json:"taken_back_ms" required:"false" readOnly:"true"`
	TakenBackWhy string   `json:"taken_back_why" required:"false"`
}

// ShownDefect names a defect that a photograph shows, and says so where it was taken back;
// empty for none.
func (s Specimen) ShownDefect(id *string) string {
	for _, d := range s.Defects {
		switch {
		case id == nil || d.ID != *id:
		case d.TakenBackMS != nil:
			return d.Symptom + " (taken back)"
		default:
			return d.Symptom
		}
	}
	return ""
}

// Counting are the defects that were not taken back.
func (s Specimen) Counting() (out []Defect) {
	for _, d := range s.Defects {
		if d.TakenBackMS == nil {
			out = append(out, d)
		}
	}
	return out
}

// Weigh derives what the specimen counts as.
func (s *Specimen) Weigh() {
	var defects []outcome.Defect
	for _, d := range s.Counting() {
		defects = append(defects, outcome.Defect{Origin: d.Origin, Fault: d.Fault, Severity: d.Severity})
	}
	w := outcome.Weigh(s.Outcome, defects)
	s.Failed, s.FailedBy, s.MicroPrinted, s.Accident = w.Failed, w.FailedBy, w.MicroPrinted, w.Accident
}

// Symptoms are those of the defects that count, in order, in one line.
func (s Specimen) Symptoms() string {
	var words []string
	for _, d := range s.Counting() {
		words = append(words, d.Symptom)
	}
	return strings.Join(words, ", ")
}

// SetAside reports a specimen whose readings and fine features do not count.
func (s Specimen) SetAside() bool { return outcome.SetAside(s.Outcome, s.SwappedWith != "") }

// Counts are copies by what became of them.
type Counts = outcome.Counts

// MachinePrint is what an ended, real print took of its machine.
type MachinePrint = machine.Print

// Tally counts a run's copies of one piece by what became of them.
type Tally struct {
	RunID   string `json:"run_id"`
	PieceID string `json:"piece_id"`
	Counts
}

// TallyOf counts the specimens of a run, piece by piece in their order.
func TallyOf(specimens []Specimen) (out []Tally) {
	place := map[string]int{}
	for _, s := range specimens {
		at, seen := place[s.PieceID]
		if !seen {
			at = len(out)
			place[s.PieceID], out = at, append(out, Tally{RunID: s.RunID, PieceID: s.PieceID})
		}
		out[at].Add(s.Outcome, outcome.Weight{Failed: s.Failed, FailedBy: s.FailedBy, MicroPrinted: s.MicroPrinted, Accident: s.Accident})
	}
	return out
}

// CountsOf adds tallies up.
func CountsOf(tallies []Tally) (out Counts) {
	for _, t := range tallies {
		out.Sum(t.Counts)
	}
	return out
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
	// TakenBackMS is when the reading was taken back, with why.
	TakenBackMS  *int64 `json:"taken_back_ms" required:"false" readOnly:"true"`
	TakenBackWhy string `json:"taken_back_why" required:"false" readOnly:"true"`
}
