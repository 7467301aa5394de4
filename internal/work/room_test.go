package work_test

import (
	"encoding/json"
	"errors"
	"strings"
	"testing"
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/work/printing"
)

func (d *desk) reads(run printing.RunSheet, r bench.RoomReading) printing.RunSheet {
	d.t.Helper()
	return must(d.w.Printing.ReadRoom(d.t.Context(), run.Run.ID, r))(d.t)
}

func TestWhatAPrintIsMadeInFollowsFromReadings(t *testing.T) {
	d := newDesk(t)
	p := quantity.Ptr[float64]
	run := d.run(func(r *bench.Run) { r.RoomTempC = p(20) })
	if run.Room.Says != "room 20 °C" || len(run.RoomReadings) != 0 {
		t.Fatalf("typed once: %q", run.Room.Says)
	}
	start := run.Run.StartedMS
	d.clock = time.UnixMilli(start + 4*3600_000)
	hour := func(h int64) int64 { return start + h*3600_000 }
	// What was typed for the whole is the first reading once another follows: 20 rising to 24 in four hours.
	run = d.reads(run, bench.RoomReading{AtMS: hour(4), Moment: "end", RoomTempC: p(24), HumidityPct: p(55), HeaterOn: quantity.Ptr(true)})
	if len(run.RoomReadings) != 2 || *run.Run.RoomTempC != 22 || *run.Run.HumidityPct != 55 || !*run.Run.HeaterOn || !run.Room.Drifted {
		t.Fatalf("%+v, room %v", run.Room, *run.Run.RoomTempC)
	}
	if want := "room 22 °C (20 to 24, n = 2, it rose); humidity 55 %; heater on"; run.Room.Says != want || !strings.Contains(strings.Join(printing.ConditionWords(&run), "; "), want) {
		t.Errorf("%q; %q", run.Room.Says, strings.Join(printing.ConditionWords(&run), "; "))
	}
	// It is not typed over any more, only read again or taken back.
	_, err := d.w.Printing.AmendRun(t.Context(), run.Run.ID, run.Run.Version, json.RawMessage(`{"room_temp_c": 30}`), "", false)
	var field *quantity.FieldError
	if !errors.As(err, &field) || field.Path != "room_temp_c" || !strings.Contains(field.Message, "follows from the readings") {
		t.Errorf("typed over: %v", err)
	}
	must(d.w.Printing.AmendRun(t.Context(), run.Run.ID, run.Run.Version, json.RawMessage(`{"notes": "a draught"}`), "", false))(t)
	last := run.RoomReadings[1]
	run = must(d.w.Printing.TakeRoomBack(t.Context(), last.ID, "the wrong shelf"))(t)
	if *run.Run.RoomTempC != 20 || run.Run.HumidityPct != nil || run.Run.HeaterOn != nil || len(run.RoomReadings) != 2 || run.RoomReadings[1].TakenBackWhy != "the wrong shelf" {
		t.Errorf("taken back: %+v", run.Room)
	}
	if _, err := d.w.Printing.TakeRoomBack(t.Context(), last.ID, "again"); !errors.Is(err, bench.ErrConflict) {
		t.Errorf("taken back twice: %v", err)
	}
}

func TestAReadingOfARoomMakesSense(t *testing.T) {
	d := newDesk(t)
	p := quantity.Ptr[float64]
	run := d.run(func(*bench.Run) {})
	for want, r := range map[string]bench.RoomReading{
		"room_temp_c":  {Moment: "start"},
		"resin_temp_c": {Moment: "start", ResinTempC: p(300)},
		"humidity_pct": {Moment: "start", HumidityPct: p(101)},
		"at_ms":        {Moment: "start", RoomTempC: p(20), AtMS: d.clock.UnixMilli() + 1},
	} {
		_, err := d.w.Printing.ReadRoom(t.Context(), run.Run.ID, r)
		var field *quantity.FieldError
		if !errors.As(err, &field) || field.Path != want {
			t.Errorf("%s: %v", want, err)
		}
	}
}

func TestAResinHasAWindowOfItsOwn(t *testing.T) {
	d := newDesk(t)
	p := quantity.Ptr[float64]
	r := d.resin
	r.PrintsFromC, r.PrintsToC = p(30), p(25)
	var field *quantity.FieldError
	if _, err := d.w.Kit.SaveResin(t.Context(), r); !errors.As(err, &field) || field.Path != "prints_to_c" {
		t.Fatalf("a window upside down: %v", err)
	}
	r.PrintsFromC, r.PrintsToC = p(25), p(35)
	d.resin = must(d.w.Kit.SaveResin(t.Context(), r))(t).Resin
	run := d.run(func(r *bench.Run) { r.ResinTempC = p(22) })
	if run.RoomOutside == nil || !*run.RoomOutside || !strings.Contains(strings.Join(printing.ConditionWords(&run), "; "), "outside the 25 to 35 °C stated for its resin") {
		t.Errorf("%v; %s", run.RoomOutside, strings.Join(printing.ConditionWords(&run), "; "))
	}
	d.withVat(40, 10)
	prepared := d.prepared(40)
	live := must(d.w.Printing.Live(t.Context(), prepared.Run.ID))(t)
	if got := item(t, live, "temperature"); !strings.Contains(got.Fact, "25 to 35 °C are stated for this resin") {
		t.Error(got.Fact)
	}
	d.reads(prepared, bench.RoomReading{Moment: "start", ResinTempC: p(21)})
	live = must(d.w.Printing.Live(t.Context(), prepared.Run.ID))(t)
	if got := item(t, live, "temperature"); got.State != "act" || !strings.Contains(got.Fact, "Outside 25 to 35 °C") {
		t.Errorf("%s: %s", got.State, got.Fact)
	}
}

// The start and the end are when the print began and ended, whenever they are typed in.
func TestAReadingTypedInAfterwardsIsOfItsMoment(t *testing.T) {
	d := newDesk(t)
	p := quantity.Ptr[float64]
	run := d.run(nil)
	d.clock = d.clock.Add(48 * time.Hour)
	d.reads(run, bench.RoomReading{Moment: "end", RoomTempC: p(24)})
	run = d.reads(run, bench.RoomReading{Moment: "start", RoomTempC: p(20)})
	if first, last := run.RoomReadings[0], run.RoomReadings[1]; first.AtMS != run.Run.StartedMS || last.AtMS != *run.Run.EndedMS || *run.Run.RoomTempC != 22 {
		t.Errorf("%+v", run.RoomReadings)
	}
}
