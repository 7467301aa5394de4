package machine

import (
	"testing"

	"ojime/internal/core/quantity"
)

func TestWhatARoomIsExpectedToBeLike(t *testing.T) {
	p, yes := quantity.Ptr[float64], quantity.Ptr(true)
	const now, minute = 10 * FreshRoomMS, 60_000
	usual := RoomReading{RoomTempC: p(19), HumidityPct: p(60)}
	shown := func(e Expected) (c, pct float64, on bool, read int64) {
		return quantity.Or(e.RoomTempC, -1), quantity.Or(e.HumidityPct, -1), quantity.Or(e.HeaterOn, false), quantity.Or(e.ReadMS, -1)
	}
	for name, c := range map[string]struct {
		read   []RoomReading
		usual  RoomReading
		tempC  float64
		pct    float64
		heated bool
		readMS int64
		from   bool
	}{
		"nothing is known":                 {nil, RoomReading{}, -1, -1, false, -1, false},
		"the usual alone":                  {nil, usual, 19, 60, false, -1, true},
		"the last reading stands":          {[]RoomReading{{AtMS: now - minute, RoomTempC: p(22)}, {AtMS: now - 2*minute, RoomTempC: p(21)}}, usual, 22, 60, false, now - minute, true},
		"each value by its own last":       {[]RoomReading{{AtMS: now - 2*minute, RoomTempC: p(21), HumidityPct: p(44)}, {AtMS: now - minute, HeaterOn: yes}}, usual, 21, 44, true, now - minute, false},
		"as old as it may be":              {[]RoomReading{{AtMS: now - FreshRoomMS, RoomTempC: p(25)}}, usual, 25, 60, false, now - FreshRoomMS, true},
		"older than that tells nothing":    {[]RoomReading{{AtMS: now - FreshRoomMS - 1, RoomTempC: p(25)}}, usual, 19, 60, false, -1, true},
		"what comes later tells nothing":   {[]RoomReading{{AtMS: now + 1, RoomTempC: p(25)}}, RoomReading{}, -1, -1, false, -1, false},
		"a resin's temperature is its own": {[]RoomReading{{AtMS: now, ResinTempC: p(25)}}, RoomReading{}, -1, -1, false, -1, false},
	} {
		got := ExpectedAt(now, c.read, c.usual)
		tempC, pct, heated, readMS := shown(got)
		if tempC != c.tempC || pct != c.pct || heated != c.heated || readMS != c.readMS || got.Usual != c.from {
			t.Errorf("%s: %v °C, %v %%, heater %v, read %d, usual %v", name, tempC, pct, heated, readMS, got.Usual)
		}
	}
}

func TestAMachineStandsWhereItWasPutLast(t *testing.T) {
	stands := func(at int64, room string) Knot {
		return Knot{AtMS: at, Kinds: []string{Stands}, Changes: []Change{{RoomName, room}}}
	}
	h := New([]Knot{stands(20, "attic"), stands(10, "garage"), {AtMS: 30, Kinds: []string{Move}}}, nil)
	for at, want := range map[int64]string{9: "", 10: "garage", 19: "garage", 20: "attic", 99: "attic"} {
		if got := h.FittedAt(at).Room; got != want {
			t.Errorf("at %d it stands in %q, want %q", at, got, want)
		}
	}
}
