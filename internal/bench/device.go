package bench

import "ojime/internal/core/quantity"

// Device is something that sends readings or progress in. Its token is shown
// once, when it is made; only the hash of it is kept.
type Device struct {
	ID          string  `json:"id" required:"false" readOnly:"true"`
	Code        string  `json:"code" required:"false" readOnly:"true"`
	Version     int64   `json:"version" required:"false"`
	CreatedMS   int64   `json:"created_ms" required:"false" readOnly:"true"`
	Name        string  `json:"name" minLength:"1"`
	Kind        string  `json:"kind" enum:"printer,caliper,scale,thermometer,light_meter,noise_meter"`
	MachineID   *string `json:"machine_id" required:"false"`
	TokenSHA256 string  `json:"-"`
	StandIn     bool    `json:"stand_in" required:"false"`
	RetiredMS   *int64  `json:"retired_ms" required:"false"`
	// SetAside counts messages that made no sense; SetAsideWhy is about the last.
	SetAside    int64  `json:"set_aside" required:"false" readOnly:"true"`
	SetAsideWhy string `json:"set_aside_why" required:"false" readOnly:"true"`
}

// DeviceSession counts what came in from one start of a device to its end.
// LagMS is the least time by which our clock was ahead of the device's: the
// difference of the clocks and the shortest way.
type DeviceSession struct {
	DeviceID   string `json:"device_id"`
	Session    string `json:"session"`
	FirstMS    int64  `json:"first_ms"`
	LastMS     int64  `json:"last_ms"`
	LastSeq    int64  `json:"last_seq"`
	Received   int64  `json:"received"`
	Doubled    int64  `json:"doubled"`
	Late       int64  `json:"late"`
	Disordered int64  `json:"disordered"`
	LagMS      int64  `json:"lag_ms"`
	LastState  string `json:"last_state"`
}

// Lost is how many messages of a session are still missing.
func (s DeviceSession) Lost() int64 { return s.LastSeq - s.Received }

// DeviceMessage is one message of a device: a reading (Value, Unit) or the word
// of a printer (State, Layer). Seq counts from 1 within a session.
type DeviceMessage struct {
	DeviceID   string   `json:"device_id"`
	Session    string   `json:"session"`
	Seq        int64    `json:"seq"`
	AtMS       int64    `json:"at_ms"`
	ReceivedMS int64    `json:"received_ms"`
	Kind       string   `json:"kind"`
	Value      *float64 `json:"value"`
	Unit       string   `json:"unit"`
	State      string   `json:"state"`
	Layer      *int64   `json:"layer"`
	Note       string   `json:"note"`
}

// LateMS is by how much more than usual a message may be under way.
const LateMS = 2000

// Count takes a message into the session: whether it is new is known by the
// record. It reports whether its word is the newest.
func (s *DeviceSession) Count(m DeviceMessage, isNew bool) (newest bool) {
	if s.Received == 0 {
		s.FirstMS, s.LagMS = m.ReceivedMS, m.ReceivedMS-m.AtMS
	}
	s.LastMS = max(s.LastMS, m.ReceivedMS)
	if !isNew {
		s.Doubled++
		return false
	}
	s.Received++
	s.LagMS = min(s.LagMS, m.ReceivedMS-m.AtMS)
	if m.ReceivedMS-m.AtMS-s.LagMS > LateMS {
		s.Late++
	}
	if m.Seq < s.LastSeq {
		s.Disordered++
		return false
	}
	s.LastSeq = m.Seq
	return true
}

// RunFeed is where the machine itself says that a print is.
type RunFeed struct {
	RunID      string   `json:"run_id"`
	DeviceID   string   `json:"device_id"`
	Session    string   `json:"session"`
	Seq        int64    `json:"seq"`
	AtMS       int64    `json:"at_ms"`
	State      string   `json:"state"`
	Layer      *int64   `json:"layer"`
	Layers     *int64   `json:"layers"`
	LayerAtMS  *int64   `json:"layer_at_ms"`
	ResinTempC *float64 `json:"resin_temp_c"`
}

// DeviceUnits is what each kind of device measures in.
var DeviceUnits = map[string][]string{
	"caliper": {"mm"}, "scale": {"g"}, "thermometer": {"c", "pct"}, "light_meter": {"mw_cm2"}, "noise_meter": {"db"}, "printer": {"c"},
}

// Check says what makes no sense about a device.
func (d Device) Check() error {
	var c quantity.Checks
	if d.Kind == "printer" && d.MachineID == nil {
		c.Fail("machine_id", "is missing; say which machine it speaks for")
	}
	return c.Err()
}
