package machine

import (
	"testing"

	"ojime/internal/core/quantity"
)

func TestWhatARoomIsExpectedToBeLike(t *testing.T) {
	p, yes := quantity.Ptr[float64], quantity.Ptr(true)
	const threeHours, minute = 3 * 60 * 60_000, 60_000
	const now = 10 * threeHours
	usual := Air{RoomTempC: p(19), HumidityPct: p(60)}
	or := func(v *float64) float64 { return quantity.Or(v, -1) }
	for name, c := range map[string]struct {
		read             []RoomReading
		usual            Air
		tempC, pct       float64
		usualC, usualPct float64
		heated           bool
		readMS           int64
	}{
		"nothing is known":                 {nil, Air{}, -1, -1, -1, -1, false, -1},
		"the usual alone was not read":     {nil, usual, -1, -1, 19, 60, false, -1},
		"the last reading stands":          {[]RoomReading{{AtMS: now - minute, RoomTempC: p(22)}, {AtMS: now - 2*minute, RoomTempC: p(21)}}, usual, 22, -1, -1, 60, false, now - minute},
		"each value by its own last":       {[]RoomReading{{AtMS: now - 2*minute, RoomTempC: p(21), HumidityPct: p(44)}, {AtMS: now - minute, HeaterOn: yes}}, usual, 21, 44, -1, -1, true, now - minute},
		"as old as it may be":              {[]RoomReading{{AtMS: now - threeHours, RoomTempC: p(25)}}, usual, 25, -1, -1, 60, false, now - threeHours},
		"older than that tells nothing":    {[]RoomReading{{AtMS: now - threeHours - 1, RoomTempC: p(25)}}, usual, -1, -1, 19, 60, false, -1},
		"what comes later tells nothing":   {[]RoomReading{{AtMS: now + 1, RoomTempC: p(25)}}, Air{}, -1, -1, -1, -1, false, -1},
		"a resin's temperature is its own": {[]RoomReading{{AtMS: now, ResinTempC: p(25)}}, Air{}, -1, -1, -1, -1, false, -1},
	} {
		got := ExpectedAt(now, c.read, c.usual)
		if or(got.Read.RoomTempC) != c.tempC || or(got.Read.HumidityPct) != c.pct || or(got.Usual.RoomTempC) != c.usualC || or(got.Usual.HumidityPct) != c.usualPct ||
			quantity.Or(got.Read.HeaterOn, false) != c.heated || quantity.Or(got.ReadMS, -1) != c.readMS {
			t.Errorf("%s: %+v", name, got)
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
