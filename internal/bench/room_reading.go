package bench

import (
	"ojime/internal/core/machine"
	"ojime/internal/core/quantity"
	"ojime/internal/say"
)

// RoomReading is what the room and the resin of a print had at one moment: temperatures in °C,
// relative humidity in %, whether a heater was on; nil what was not read. DeviceID names the
// device that told it, nil where it was typed. It is appended; one that was wrong is taken back.
type RoomReading struct {
	ID           string   `json:"id" required:"false" readOnly:"true"`
	RunID        string   `json:"run_id" required:"false" readOnly:"true"`
	AtMS         int64    `json:"at_ms" required:"false"`
	Moment       string   `json:"moment" enum:"start,during,end"`
	RoomTempC    *float64 `json:"room_temp_c" required:"false"`
	HumidityPct  *float64 `json:"humidity_pct" required:"false" minimum:"0" maximum:"100"`
	ResinTempC   *float64 `json:"resin_temp_c" required:"false"`
	HeaterOn     *bool    `json:"heater_on" required:"false"`
	DeviceID     *string  `json:"device_id" required:"false" readOnly:"true"`
	Note         string   `json:"note" required:"false"`
	TakenBackMS  *int64   `json:"taken_back_ms" required:"false" readOnly:"true"`
	TakenBackWhy string   `json:"taken_back_why" required:"false" readOnly:"true"`
}

// TypedForWhole is the note of a first reading that was made of what was typed for the whole print: it
// tells of that print alone.
const TypedForWhole = "typed for the whole print"

// Check says what makes no sense about a reading of a room.
func (r RoomReading) Check() error {
	var c quantity.Checks
	checkTemperature(&c, "room_temp_c", r.RoomTempC)
	checkTemperature(&c, "resin_temp_c", r.ResinTempC)
	checkHumidity(&c, r.HumidityPct)
	if r.RoomTempC == nil && r.HumidityPct == nil && r.ResinTempC == nil && r.HeaterOn == nil {
		c.Fail("room_temp_c", "is missing, and so are humidity, the resin and the heater; say at least one")
	}
	return c.Err()
}

// Read is the reading as the summary of a print takes it.
func (r RoomReading) Read() machine.RoomReading {
	return machine.RoomReading{AtMS: r.AtMS, RoomTempC: r.RoomTempC, HumidityPct: r.HumidityPct, ResinTempC: r.ResinTempC, HeaterOn: r.HeaterOn}
}

func checkTemperature(c *quantity.Checks, field string, value *float64) {
	if value != nil && (*value < coldestC || *value > hottestC) {
		c.Fail(field, "is %s °C; check the unit", say.Figures(*value, 6))
	}
}

func checkHumidity(c *quantity.Checks, value *float64) {
	if value != nil && (*value < 0 || *value > 100) {
		c.Fail("humidity_pct", "is %s %%; relative humidity lies between 0 and 100 %%", say.Figures(*value, 6))
	}
}
