package bench

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
}

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
}

// UsualSettings are those of a new record: an arm's length of viewing, five
// days from nine to six.
var UsualSettings = Settings{
	ID: 1, Currency: "€", EnergyPerKWh: 0.30, WastePct: 5, Version: 1, ViewingMM: 300,
	AttendedFromH: 9, AttendedToH: 18, AttendedDays: 5, TurnaroundMin: 25, RunHPerWeek: 30,
}
