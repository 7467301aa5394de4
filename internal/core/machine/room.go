package machine

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"ojime/internal/core/quantity"
	"ojime/internal/say"
)

// Window are the temperatures at which a resin is stated to print, in °C; an end that is nil is
// the usual one of resins, ColdestUsualC or WarmestUsualC.
type Window struct {
	FromC *float64 `json:"from_c"`
	ToC   *float64 `json:"to_c"`
}

// Ends are the window's, with the usual ones where none is stated.
func (w Window) Ends() (fromC, toC float64) {
	return quantity.Or(w.FromC, ColdestUsualC), quantity.Or(w.ToC, WarmestUsualC)
}

// Stated reports a window of which at least one end is the resin's own.
func (w Window) Stated() bool { return w.FromC != nil || w.ToC != nil }

// Outside reports a temperature that lies outside a stated window; nil where none is stated, or
// the temperature is not known.
func (w Window) Outside(tempC *float64) *bool {
	if !w.Stated() || tempC == nil {
		return nil
	}
	from, to := w.Ends()
	return quantity.Ptr(*tempC < from || *tempC > to)
}

// Words is the window as pages have it: 22 to 30 °C.
func (w Window) Words() string {
	from, to := w.Ends()
	return fmt.Sprintf("%s to %s °C", say.Figure(from), say.Figure(to))
}

// RoomReading is what was read at one instant: temperatures in °C, relative humidity in %,
// whether a heater was on; nil what was not.
type RoomReading struct {
	AtMS        int64
	RoomTempC   *float64
	HumidityPct *float64
	ResinTempC  *float64
	HeaterOn    *bool
}

// Course is how one value went over a print: its mean over time (a plain one where all readings
// are of one instant), the least and the most, the first and the last, of N readings.
type Course struct {
	Mean  float64 `json:"mean"`
	Least float64 `json:"least"`
	Most  float64 `json:"most"`
	First float64 `json:"first"`
	Last  float64 `json:"last"`
	N     int64   `json:"n"`
}

// Spread is how far the value moved in all.
func (c Course) Spread() float64 { return c.Most - c.Least }

// Room is what a print was made in on the whole; nil what was never read. HeaterOn says that a
// heater was on at any reading. Drifted says that room or resin moved by DriftC at least, or the
// humidity by DriftPct.
type Room struct {
	RoomC       *Course `json:"room_c"`
	HumidityPct *Course `json:"humidity_pct"`
	ResinC      *Course `json:"resin_c"`
	HeaterOn    *bool   `json:"heater_on"`
	Drifted     bool    `json:"drifted"`
	Says        string  `json:"says"`
}

// How far a value moves before that is called a drift. They are ours: a degree or two is what a
// thermostat lets a room swing.
const (
	DriftC   = 3.0
	DriftPct = 15.0
)

// RoomOver brings the readings of one print, in their order, together.
func RoomOver(readings []RoomReading) Room {
	var out Room
	out.RoomC = courseOf(readings, func(r RoomReading) *float64 { return r.RoomTempC })
	out.ResinC = courseOf(readings, func(r RoomReading) *float64 { return r.ResinTempC })
	out.HumidityPct = courseOf(readings, func(r RoomReading) *float64 { return r.HumidityPct })
	for _, r := range readings {
		if r.HeaterOn != nil {
			out.HeaterOn = quantity.Ptr(quantity.Or(out.HeaterOn, false) || *r.HeaterOn)
		}
	}
	out.Drifted = out.RoomC.moved(DriftC) || out.ResinC.moved(DriftC) || out.HumidityPct.moved(DriftPct)
	out.Says = out.words()
	return out
}

func (c *Course) moved(by float64) bool { return c != nil && !quantity.Less(c.Spread(), by) }

// courseOf weighs each value by half the time to the readings beside it.
func courseOf(readings []RoomReading, of func(RoomReading) *float64) *Course {
	var at, v []float64
	for _, r := range readings {
		if value := of(r); value != nil {
			at, v = append(at, float64(r.AtMS)), append(v, *value)
		}
	}
	if len(v) == 0 {
		return nil
	}
	out := Course{Least: v[0], Most: v[0], First: v[0], Last: v[len(v)-1], N: int64(len(v))}
	var area, plain float64
	for i, x := range v {
		out.Least, out.Most = math.Min(out.Least, x), math.Max(out.Most, x)
		plain += x
		if i > 0 {
			area += (at[i] - at[i-1]) * (x + v[i-1]) / 2
		}
	}
	if span := at[len(at)-1] - at[0]; span > 0 {
		out.Mean = area / span
	} else {
		out.Mean = plain / float64(len(v))
	}
	return &out
}

func (r Room) words() string {
	var words []string
	for _, one := range []struct {
		what   string
		unit   string
		course *Course
		drift  float64
	}{{"room", "°C", r.RoomC, DriftC}, {"humidity", "%", r.HumidityPct, DriftPct}, {"resin", "°C", r.ResinC, DriftC}} {
		if one.course != nil {
			words = append(words, one.course.words(one.what, one.unit, one.drift))
		}
	}
	if r.HeaterOn != nil {
		words = append(words, map[bool]string{true: "heater on", false: "heater off"}[*r.HeaterOn])
	}
	return strings.Join(words, "; ")
}

func (c Course) words(what, unit string, drift float64) string {
	text := fmt.Sprintf("%s %s %s", what, say.Figure(c.Mean), unit)
	if c.N == 1 {
		return text
	}
	text += fmt.Sprintf(" (%s to %s, n = %d", say.Figure(c.Least), say.Figure(c.Most), c.N)
	switch {
	case quantity.Less(c.Spread(), drift):
	case c.First < c.Last:
		text += ", it rose"
	case c.First > c.Last:
		text += ", it fell"
	default:
		text += ", it went and came back"
	}
	return text + ")"
}

// How long after its start a reading is of the start of a print, how often what a device tells of
// a room is kept at least, and how far it must have moved to be kept sooner.
const (
	StartMS  = 10 * 60 * 1000
	everyMS  = 15 * 60 * 1000
	movedC   = 1.0
	movedPct = 5.0
)

// RoomNews reports a reading that is worth keeping after the last one of the same device.
func RoomNews(last, now RoomReading) bool {
	moved := func(a, b *float64, by float64) bool {
		return a != nil && b != nil && !quantity.Less(math.Abs(*a-*b), by)
	}
	return now.AtMS-last.AtMS >= everyMS || moved(last.RoomTempC, now.RoomTempC, movedC) || moved(last.ResinTempC, now.ResinTempC, movedC) || moved(last.HumidityPct, now.HumidityPct, movedPct)
}

// FreshRoomMS is for how long, in ms, what was read in a room still tells what the next print there
// is made in: three hours, in which a closed room hardly moves by a degree. It is ours.
const FreshRoomMS = 3 * 60 * 60 * 1000

// Air is what a room has; nil what is not known.
type Air struct {
	RoomTempC   *float64 `json:"room_temp_c"`
	HumidityPct *float64 `json:"humidity_pct"`
	HeaterOn    *bool    `json:"heater_on"`
}

// Expected is what a print that begins in a room is expected to be made in: Read is what was read
// there lately, the latest of it at ReadMS; Usual is what the room usually is of the rest. What is
// usual was not read, and is no condition of a print until someone says so.
type Expected struct {
	Read   Air    `json:"read"`
	ReadMS *int64 `json:"read_ms"`
	Usual  Air    `json:"usual"`
}

// ExpectedAt is what a room is expected to be like at an instant: of what was read in it within
// FreshRoomMS before, the last of each value; and of its usual what was not read. The temperature of
// a resin is that of its own vat and is not expected from the room.
func ExpectedAt(atMS int64, read []RoomReading, usual Air) Expected {
	var out Expected
	inOrder := slices.Clone(read)
	slices.SortStableFunc(inOrder, func(a, b RoomReading) int { return cmp.Compare(a.AtMS, b.AtMS) })
	for _, r := range inOrder {
		if air := (Air{r.RoomTempC, r.HumidityPct, r.HeaterOn}); air != (Air{}) && r.AtMS <= atMS && r.AtMS >= atMS-FreshRoomMS {
			out.Read, out.ReadMS = air.orElse(out.Read), quantity.Ptr(r.AtMS)
		}
	}
	out.Usual = usual.without(out.Read)
	return out
}

// orElse is a with what it lacks from b.
func (a Air) orElse(b Air) Air {
	return Air{cmp.Or(a.RoomTempC, b.RoomTempC), cmp.Or(a.HumidityPct, b.HumidityPct), cmp.Or(a.HeaterOn, b.HeaterOn)}
}

// without is a without what b has.
func (a Air) without(b Air) Air {
	if b.RoomTempC != nil {
		a.RoomTempC = nil
	}
	if b.HumidityPct != nil {
		a.HumidityPct = nil
	}
	if b.HeaterOn != nil {
		a.HeaterOn = nil
	}
	return a
}
