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
	stands := func(at int64, room, from string, kinds ...string) Knot {
		return Knot{AtMS: at, Kinds: append(kinds, Stands), Changes: []Change{{What: RoomName, To: room, From: from}}}
	}
	h := New([]Knot{stands(20, "attic", ""), stands(10, "garage", "elsewhere"), {AtMS: 30, Kinds: []string{Move}}}, nil)
	for at, want := range map[int64]string{9: "", 10: "garage", 19: "garage", 20: "attic", 99: "attic"} {
		if got := h.FittedAt(at).Room; got != want {
			t.Errorf("at %d it stands in %q, want %q", at, got, want)
		}
	}
	for name, c := range map[string]struct {
		knot  Knot
		tells bool
	}{"stood there all along": {stands(10, "garage", ""), true}, "came from elsewhere": {stands(10, "garage", "elsewhere"), false}, "was carried": {stands(10, "garage", "", Move), false},
		"and a new film": {Knot{Kinds: []string{Stands}, Changes: []Change{{What: RoomName, To: "garage"}, {What: FilmType, To: "soft"}}}, false}, "nothing": {Knot{}, false}} {
		if c.knot.Tells() != c.tells {
			t.Errorf("%s: only tells is %v", name, !c.tells)
		}
	}
	// Before any knot it stood where the first found it, unless it came or was carried from elsewhere.
	for name, c := range map[string]struct {
		first Knot
		want  string
	}{"found there": {stands(10, "garage", ""), "garage"}, "from elsewhere": {stands(10, "garage", "elsewhere"), ""}, "carried there": {stands(10, "garage", "", Move), ""}, "of another kind": {Knot{AtMS: 10, Kinds: []string{Film}}, ""}} {
		if got := New([]Knot{c.first, stands(20, "attic", "", Move)}, nil).FittedAt(5).Room; got != c.want {
			t.Errorf("%s: before, it stood in %q, want %q", name, got, c.want)
		}
	}
}
