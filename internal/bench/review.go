package bench

import "database/sql/driver"

// Review is a question, its readers and members, and what was found.
type Review struct {
	ID         string `json:"id" required:"false" readOnly:"true"`
	Code       string `json:"code" required:"false" readOnly:"true"`
	Version    int64  `json:"version" required:"false"`
	CreatedMS  int64  `json:"created_ms" required:"false" readOnly:"true"`
	Question   string `json:"question" minLength:"1"`
	Readers    string `json:"readers"`
	UnderTest  IDs    `json:"under_test"`
	Policy     string `json:"policy" enum:"same_settings,maker_default,each_calibrated"`
	Disclosure string `json:"disclosure"`
	Verdict    string `json:"verdict"`
	NotTested  string `json:"not_tested"`
	MachineIDs IDs    `json:"machine_ids"`
	ResinIDs   IDs    `json:"resin_ids"`
	PieceIDs   IDs    `json:"piece_ids"`
	// LeftOut are prints that its comparisons do without.
	LeftOut LeftOutList `json:"left_out" required:"false" readOnly:"true"`
	// Deciding is what was declared to decide, the last declaration last.
	Deciding Declarations `json:"deciding" required:"false" readOnly:"true"`
	// SetUps are names and order of its set-ups, as far as the reviewer gave them.
	SetUps SetUpNames `json:"set_ups" required:"false" readOnly:"true"`
	// ReferenceIDs are the references that its prints are set against.
	ReferenceIDs IDs `json:"reference_ids" required:"false"`
	// Blocks are the parts of its write-up, as far as the reviewer put them in order.
	Blocks Blocks `json:"blocks" required:"false" readOnly:"true"`
}

// LeftOut is a print that a review leaves out, with the reason that it publishes.
type LeftOut struct {
	RunID  string `json:"run_id"`
	Reason string `json:"reason" minLength:"1"`
}

// LeftOutList are the prints that a review leaves out.
type LeftOutList []LeftOut

// Reason is why a print is left out; ok where it is.
func (l LeftOutList) Reason(runID string) (reason string, ok bool) {
	for _, o := range l {
		if o.RunID == runID {
			return o.Reason, true
		}
	}
	return "", false
}

// Without is the list with no word of a print.
func (l LeftOutList) Without(runID string) LeftOutList {
	out := LeftOutList{}
	for _, o := range l {
		if o.RunID != runID {
			out = append(out, o)
		}
	}
	return out
}

// Value stores the list as JSON text.
func (l LeftOutList) Value() (driver.Value, error) { return listValue(l) }

// Scan reads what Value stored.
func (l *LeftOutList) Scan(from any) error { return scanList(from, l) }

// Settings are the reviewer's own figures that every cost rests on.
type Settings struct {
	ID            int64   `json:"id" required:"false" readOnly:"true"`
	Currency      string  `json:"currency"`
	EnergyPerKWh  float64 `json:"energy_per_kwh" minimum:"0"`
	LabourPerH    float64 `json:"labour_per_h" minimum:"0"`
	WastePct      float64 `json:"waste_pct" minimum:"0"`
	Version       int64   `json:"version" required:"false"`
	ViewingMM     float64 `json:"viewing_mm" required:"false" exclusiveMinimum:"0"`
	AttendedFromH float64 `json:"attended_from_h" required:"false" minimum:"0"`
	AttendedToH   float64 `json:"attended_to_h" required:"false" maximum:"24"`
	AttendedDays  int64   `json:"attended_days" required:"false" minimum:"1" maximum:"7"`
	TurnaroundMin float64 `json:"turnaround_min" required:"false" minimum:"0"`
	RunHPerWeek   float64 `json:"run_h_per_week" required:"false" exclusiveMinimum:"0"`
	// VatChangeMin is what it takes to empty, clean and fill a vat with another resin.
	VatChangeMin float64 `json:"vat_change_min" required:"false" minimum:"0"`
	// UsualSoftware to UsualCureS are what the reviewer usually does: a first print on a machine
	// begins with them, and plates without their own software with that.
	UsualSoftware    string   `json:"usual_software" required:"false"`
	UsualOrientation string   `json:"usual_orientation" required:"false"`
	UsualSupports    string   `json:"usual_supports" required:"false"`
	UsualWashS       *float64 `json:"usual_wash_s" required:"false" minimum:"0"`
	UsualCureS       *float64 `json:"usual_cure_s" required:"false" minimum:"0"`
}

// UsualSettings are those of a new record: an arm's length of viewing, five
// days from nine to six.
var UsualSettings = Settings{
	ID: 1, Currency: "€", EnergyPerKWh: 0.30, WastePct: 5, Version: 1, ViewingMM: 300,
	AttendedFromH: 9, AttendedToH: 18, AttendedDays: 5, TurnaroundMin: 25, RunHPerWeek: 30, VatChangeMin: 20,
}
