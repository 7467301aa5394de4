package machine

import (
	"testing"

	"ojime/internal/core/quantity"
)

func TestARoomIsBroughtTogether(t *testing.T) {
	p := quantity.Ptr[float64]
	const hour = 3600 * 1000
	for name, c := range map[string]struct {
		readings []RoomReading
		mean     float64
		drifted  bool
		says     string
	}{
		"one reading": {[]RoomReading{{RoomTempC: p(21)}}, 21, false, "room 21 °C"},
		// An hour at 20 rising to 24, then three hours at 24: (22 + 3·24)/4.
		"weighed by time": {[]RoomReading{{AtMS: 0, RoomTempC: p(20)}, {AtMS: hour, RoomTempC: p(24)}, {AtMS: 4 * hour, RoomTempC: p(24)}}, 23.5, true, "room 23.5 °C (20 to 24, n = 3, it rose)"},
		"at one instant":  {[]RoomReading{{RoomTempC: p(20)}, {RoomTempC: p(21)}}, 20.5, false, "room 20.5 °C (20 to 21, n = 2)"},
		"and back":        {[]RoomReading{{AtMS: 0, RoomTempC: p(20)}, {AtMS: hour, RoomTempC: p(16)}, {AtMS: 2 * hour, RoomTempC: p(20)}}, 18, true, "room 18 °C (16 to 20, n = 3, it went and came back)"},
		"it fell": {[]RoomReading{{AtMS: 0, RoomTempC: p(20), HumidityPct: p(60), HeaterOn: quantity.Ptr(true)}, {AtMS: hour, RoomTempC: p(19), HumidityPct: p(40), HeaterOn: quantity.Ptr(false)}}, 19.5, true,
			"room 19.5 °C (19 to 20, n = 2); humidity 50 % (40 to 60, n = 2, it fell); heater on"},
	} {
		got := RoomOver(c.readings)
		if got.RoomC == nil || !quantity.Equal(got.RoomC.Mean, c.mean) || got.Drifted != c.drifted || got.Says != c.says {
			t.Errorf("%s: %+v %+v", name, got, got.RoomC)
		}
	}
	if got := RoomOver(nil); got.RoomC != nil || got.HumidityPct != nil || got.HeaterOn != nil || got.Says != "" {
		t.Errorf("nothing read: %+v", got)
	}
}

func TestADriftBeginsAtItsBound(t *testing.T) {
	p := quantity.Ptr[float64]
	for _, c := range []struct {
		a, b    RoomReading
		drifted bool
	}{
		{RoomReading{RoomTempC: p(20)}, RoomReading{RoomTempC: p(23)}, true}, {RoomReading{RoomTempC: p(20)}, RoomReading{RoomTempC: p(22.9)}, false},
		{RoomReading{ResinTempC: p(25)}, RoomReading{ResinTempC: p(22)}, true}, {RoomReading{ResinTempC: p(25)}, RoomReading{ResinTempC: p(22.1)}, false},
		{RoomReading{HumidityPct: p(40)}, RoomReading{HumidityPct: p(55)}, true}, {RoomReading{HumidityPct: p(40)}, RoomReading{HumidityPct: p(54.9)}, false},
	} {
		if got := RoomOver([]RoomReading{c.a, c.b}); got.Drifted != c.drifted {
			t.Errorf("%+v to %+v: drifted %v", c.a, c.b, got.Drifted)
		}
	}
}

func TestAWindowIsTheResinsOwnOrNone(t *testing.T) {
	p := quantity.Ptr[float64]
	for _, c := range []struct {
		window  Window
		tempC   *float64
		outside *bool
	}{
		{Window{}, p(10), nil}, {Window{FromC: p(25)}, nil, nil}, {Window{FromC: p(25)}, p(24.9), quantity.Ptr(true)}, {Window{FromC: p(25)}, p(28), quantity.Ptr(false)},
		{Window{FromC: p(25)}, p(28.1), quantity.Ptr(true)}, {Window{p(25), p(35)}, p(35), quantity.Ptr(false)}, {Window{ToC: p(26)}, p(27), quantity.Ptr(true)},
	} {
		got := c.window.Outside(c.tempC)
		if (got == nil) != (c.outside == nil) || (got != nil && *got != *c.outside) {
			t.Errorf("%+v at %v: %v", c.window, c.tempC, got)
		}
	}
	if w := (Window{FromC: p(25)}); w.Words() != "25 to 28 °C" {
		t.Error(w.Words())
	}
}

func TestWhatADeviceTellsIsKeptWhereItIsNew(t *testing.T) {
	p := quantity.Ptr[float64]
	last := RoomReading{AtMS: 1000, RoomTempC: p(21), HumidityPct: p(50)}
	for _, c := range []struct {
		now  RoomReading
		news bool
	}{
		{RoomReading{AtMS: 2000, RoomTempC: p(21.9)}, false}, {RoomReading{AtMS: 2000, RoomTempC: p(22)}, true}, {RoomReading{AtMS: 2000, HumidityPct: p(46)}, false},
		{RoomReading{AtMS: 2000, HumidityPct: p(45)}, true}, {RoomReading{AtMS: 1000 + 15*60*1000, RoomTempC: p(21)}, true}, {RoomReading{AtMS: 2000, ResinTempC: p(30)}, false},
	} {
		if got := RoomNews(last, c.now); got != c.news {
			t.Errorf("%+v: %v", c.now, got)
		}
	}
}
