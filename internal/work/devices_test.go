package work_test

import (
	"errors"
	"strings"
	"testing"
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/work/feed"
)

// printerOf records a printer that speaks for the desk's machine.
func (d *desk) printerOf(standIn bool) feed.DeviceMade {
	return must(d.w.Feed.MakeDevice(d.t.Context(), bench.Device{Name: "Feed", Kind: "printer", MachineID: &d.machine.ID, StandIn: standIn}))(d.t)
}

func (d *desk) word(seq, layer int64, state string) bench.DeviceMessage {
	return bench.DeviceMessage{Session: "a", Seq: seq, AtMS: d.clock.UnixMilli(), Kind: "state", State: state, Layer: &layer}
}

func (d *desk) receives(token string, messages ...bench.DeviceMessage) feed.Received {
	d.t.Helper()
	return must(d.w.Feed.Receive(d.t.Context(), token, messages))(d.t)
}

func TestAFeedDrivesAPrint(t *testing.T) {
	d := newDesk(t)
	d.withVat(40, 10)
	run := d.prepared(40)
	printer := d.printerOf(false)
	job := must(d.w.Feed.Job(t.Context(), printer.Token))(t)
	if job.Code != run.Run.Code || int64(len(job.LayerS)) != run.Run.Layers {
		t.Fatalf("job %s with %d layers", job.Code, len(job.LayerS))
	}
	got := d.receives(printer.Token, d.word(1, 0, "printing"))
	if got.State != bench.Printing || !got.Changed || got.RunCode != run.Run.Code {
		t.Errorf("started: %+v", got)
	}
	d.clock = d.clock.Add(3 * time.Minute)
	d.receives(printer.Token, d.word(2, 7, "printing"))
	live := must(d.w.Printing.Live(t.Context(), run.Run.ID))(t)
	if live.Live.Layer != 7 || live.FeedBy != "Feed" || *live.FeedS != 0 {
		t.Errorf("by the machine: layer %d, %q", live.Live.Layer, live.FeedBy)
	}
	// A pause at the bench holds though the machine still says that it prints.
	d.happens(run, "pause", nil)
	if got := d.receives(printer.Token, d.word(3, 7, "printing")); got.State != bench.Paused {
		t.Errorf("the machine undid a pause: %+v", got)
	}
	// Nor does one that has not heard yet undo the going on.
	d.receives(printer.Token, d.word(4, 7, "paused"))
	d.happens(run, "resume", nil)
	if got := d.receives(printer.Token, d.word(41, 7, "paused")); got.State != bench.Printing {
		t.Errorf("the machine undid the going on: %+v", got)
	}
	d.receives(printer.Token, d.word(42, 8, "printing"))
	if got := d.receives(printer.Token, d.word(43, 8, "paused")); got.State != bench.Paused {
		t.Errorf("the machine paused by itself and the record did not: %+v", got)
	}
	if got := d.receives(printer.Token, d.word(44, 8, "printing")); got.State != bench.Printing {
		t.Errorf("the machine went on and the record did not: %+v", got)
	}
	poured := bench.DeviceMessage{Session: "a", Seq: 60, AtMS: d.clock.UnixMilli(), Kind: "top_up", Value: quantity.Ptr(12.0), Unit: "ml"}
	d.receives(printer.Token, poured, bench.DeviceMessage{Session: "a", Seq: 59, AtMS: d.clock.UnixMilli(), Kind: "note", Note: "lid opened"})
	if live := must(d.w.Printing.Live(t.Context(), run.Run.ID))(t); live.AddedML != 12 || live.Events[len(live.Events)-1].Note != "by Feed: lid opened" {
		t.Errorf("told: %g ml, %+v", live.AddedML, live.Events)
	}
	d.clock = d.clock.Add(time.Minute)
	d.receives(printer.Token, d.word(61, run.Run.Layers, "finished"))
	sheet := must(d.w.Printing.RunSheet(t.Context(), run.Run.ID))(t)
	if sheet.Run.EndedMS == nil || *sheet.Run.EndedMS != d.clock.UnixMilli() || sheet.Run.TookS() == nil {
		t.Errorf("finished: %+v", sheet.Run)
	}
}

func TestLostLateDoubledAndDisorderedMessages(t *testing.T) {
	d := newDesk(t)
	d.withVat(40, 10)
	run := d.prepared(40)
	p := d.printerOf(false)
	start := d.clock
	say := func(seq, layer int64, state string, sent, taken time.Duration) feed.Received {
		m := d.word(seq, layer, state)
		m.AtMS = start.Add(sent).UnixMilli()
		d.clock = start.Add(taken)
		return d.receives(p.Token, m)
	}
	say(1, 0, "printing", 0, 0)
	say(2, 1, "printing", time.Second, time.Second)
	if got := say(2, 1, "printing", time.Second, 2*time.Second); got.Doubled != 1 || got.New != 0 {
		t.Errorf("doubled: %+v", got)
	}
	say(5, 4, "printing", 5*time.Second, 5*time.Second)
	// 4 comes after 5 and late, and takes nothing back; 3 never comes.
	got := say(4, 3, "paused", 4*time.Second, 9*time.Second)
	if got.State != bench.Printing || got.Lost != 1 {
		t.Errorf("an old word moved the print: %+v", got)
	}
	card := must(d.w.Feed.Devices(t.Context()))(t)[0]
	s := card.Sessions[0]
	if s.Lost != 1 || s.Doubled != 1 || s.Late != 1 || s.Disordered != 1 || s.Received != 4 || s.LastSeq != 5 || len(card.Last) != 4 {
		t.Errorf("counts %+v, %d messages", s, len(card.Last))
	}
	if live := must(d.w.Printing.Live(t.Context(), run.Run.ID))(t); live.Live.Layer != 4 {
		t.Errorf("layer %d", live.Live.Layer)
	}
}

// The word of a print's end may be lost; that the machine is idle is then said, and
// the end is left to the one who looks.
func TestAMachineThatFellIdleIsSaid(t *testing.T) {
	d := newDesk(t)
	d.withVat(40, 10)
	run := d.prepared(40)
	p := d.printerOf(true) // it says no speed, and is no measurement all the same
	d.receives(p.Token, d.word(1, 0, "printing"))
	for seq := range int64(2) {
		if got := d.receives(p.Token, d.word(3+seq, 0, "idle")); got.State != bench.Printing {
			t.Errorf("idle: %+v", got)
		}
	}
	live := must(d.w.Printing.Live(t.Context(), run.Run.ID))(t)
	if n := len(live.Events); n != 2 || live.Events[1].Note != "by Feed, which says idle" || *live.SpeedUp != 1 {
		t.Errorf("%+v, speed %v", live.Events, live.SpeedUp)
	}
}

// A machine that goes on printing what was ended at the bench starts nothing else.
func TestAnEndedPrintDoesNotStartTheNext(t *testing.T) {
	d := newDesk(t)
	d.withVat(40, 10)
	first := d.prepared(40)
	p := d.printerOf(false)
	d.receives(p.Token, d.word(1, 0, "printing"))
	d.happens(first, "stop", nil)
	second := d.prepared(40)
	if got := d.receives(p.Token, d.word(2, 3, "printing")); got.State != bench.Prepared || got.RunCode != second.Run.Code {
		t.Errorf("%+v", got)
	}
	d.receives(p.Token, d.word(3, 0, "idle"))
	if got := d.receives(p.Token, d.word(4, 0, "printing")); got.State != bench.Printing {
		t.Errorf("after idle: %+v", got)
	}
}

func TestAStandInsTimeIsNoMeasurement(t *testing.T) {
	d := newDesk(t)
	d.withVat(40, 10)
	run := d.prepared(40)
	p := d.printerOf(true)
	m := d.word(1, 0, "printing")
	m.Note = "speed 60"
	m.Value, m.Unit = quantity.Ptr(float64(run.Run.Layers+12)), "layers"
	d.receives(p.Token, m)
	next := d.word(2, 2, "printing")
	next.Value, next.Unit = m.Value, "layers"
	d.receives(p.Token, next) // said once is enough
	live := must(d.w.Printing.Live(t.Context(), run.Run.ID))(t)
	if live.SpeedUp == nil || *live.SpeedUp != 60 || len(live.Events) != 2 || !strings.Contains(live.Events[len(live.Events)-1].Note, "layers, the plan") {
		t.Errorf("%v, %+v", live.SpeedUp, live.Events)
	}
	d.clock = d.clock.Add(time.Minute)
	d.receives(p.Token, d.word(3, run.Run.Layers, "finished"))
	if done := must(d.w.Printing.RunSheet(t.Context(), run.Run.ID))(t).Run; done.EndedMS == nil || done.TookS() != nil {
		t.Errorf("took %v", done.TookS())
	}
}

func TestTemperaturesBecomeConditions(t *testing.T) {
	d := newDesk(t)
	d.withVat(40, 10)
	run := d.prepared(40)
	p := d.printerOf(false)
	room := must(d.w.Feed.MakeDevice(t.Context(), bench.Device{Name: "Shelf", Kind: "thermometer"}))(t)
	warm := func(seq int64, c float64) bench.DeviceMessage {
		return bench.DeviceMessage{Session: "t", Seq: seq, AtMS: d.clock.UnixMilli(), Kind: "reading", Value: &c, Unit: "c"}
	}
	d.receives(room.Token, warm(1, 18))
	d.receives(p.Token, d.word(1, 0, "printing"), bench.DeviceMessage{Session: "a", Seq: 2, AtMS: d.clock.UnixMilli(), Kind: "reading", Value: quantity.Ptr(24.5), Unit: "c"})
	fake := must(d.w.Feed.MakeDevice(t.Context(), bench.Device{Name: "Stand-in", Kind: "thermometer", StandIn: true}))(t)
	d.receives(fake.Token, warm(1, 40))
	d.receives(room.Token, warm(2, 21), warm(3, 22))
	sheet := must(d.w.Printing.RunSheet(t.Context(), run.Run.ID))(t)
	// What came in the same instant is a plain mean; each degree is news.
	if r := sheet.Run; r.RoomTempC == nil || *r.RoomTempC != 21.5 || r.ResinTempC == nil || *r.ResinTempC != 24.5 {
		t.Errorf("room %v, resin %v", sheet.Room.RoomC, sheet.Room.ResinC)
	}
	if len(sheet.RoomReadings) != 3 || sheet.RoomReadings[0].Moment != "start" || sheet.RoomReadings[0].DeviceID == nil {
		t.Errorf("%+v", sheet.RoomReadings)
	}
	live := must(d.w.Printing.Live(t.Context(), run.Run.ID))(t)
	if len(live.Rooms) != 2 || live.Rooms[0].Value != 22 || !live.Rooms[1].StandIn || *live.Feed.ResinTempC != 24.5 {
		t.Errorf("now: %+v, %+v", live.Rooms, live.Feed)
	}
}

func TestOnlyItsTokenLetsADeviceSend(t *testing.T) {
	d := newDesk(t)
	made := must(d.w.Feed.MakeDevice(t.Context(), bench.Device{Name: "Caliper", Kind: "caliper"}))(t)
	reading := bench.DeviceMessage{Session: "c", Seq: 1, AtMS: 1, Kind: "reading", Value: quantity.Ptr(12.01), Unit: "mm"}
	if got := d.receives(made.Token, reading); len(got.Readings) != 1 || got.Readings[0].Value != 12.01 || got.Changed {
		t.Errorf("%+v", got)
	}
	renewed := must(d.w.Feed.RenewToken(t.Context(), made.Device.ID))(t)
	for _, token := range []string{"", "guess", made.Token} {
		if _, err := d.w.Feed.Receive(t.Context(), token, []bench.DeviceMessage{reading}); !errors.Is(err, feed.ErrNoDevice) {
			t.Errorf("token %q: %v", token, err)
		}
	}
	must(d.w.Feed.RetireDevice(t.Context(), made.Device.ID))(t)
	if _, err := d.w.Feed.Receive(t.Context(), renewed.Token, []bench.DeviceMessage{reading}); !errors.Is(err, feed.ErrNoDevice) {
		t.Errorf("a retired device: %v", err)
	}
	if _, err := d.w.Feed.MakeDevice(t.Context(), bench.Device{Name: "X", Kind: "printer"}); err == nil {
		t.Error("a printer without a machine was made")
	}
}

func TestMessagesThatMakeNoSense(t *testing.T) {
	d := newDesk(t)
	made := must(d.w.Feed.MakeDevice(t.Context(), bench.Device{Name: "Caliper", Kind: "caliper"}))(t)
	ok := bench.DeviceMessage{Session: "c", Seq: 1, AtMS: 1, Kind: "reading", Value: quantity.Ptr(1.0), Unit: "mm"}
	n := 1
	for name, spoil := range map[string]func(*bench.DeviceMessage){
		"session": func(m *bench.DeviceMessage) { m.Session = "" }, "seq": func(m *bench.DeviceMessage) { m.Seq = 0 },
		"at_ms": func(m *bench.DeviceMessage) { m.AtMS = 0 }, "value": func(m *bench.DeviceMessage) { m.Value = nil },
		"unit": func(m *bench.DeviceMessage) { m.Unit = "g" }, "kind": func(m *bench.DeviceMessage) { m.Kind = "state" },
		"note": func(m *bench.DeviceMessage) { m.Note = strings.Repeat("x", feed.LongestNote+1) },
	} {
		m, good := ok, ok
		spoil(&m)
		good.Seq = int64(n)
		n++
		got := d.receives(made.Token, m, good)
		if got.SetAside != 1 || got.New != 1 || !strings.HasPrefix(got.SetAsideWhy, name+": ") {
			t.Errorf("%s: %+v, want it set aside and the other kept", name, got)
		}
	}
	if card := must(d.w.Feed.Devices(t.Context()))(t)[0]; len(card.Last) != n-1 || card.Device.SetAside != int64(n-1) || card.Device.SetAsideWhy == "" {
		t.Errorf("%d kept, %d set aside (%s)", len(card.Last), card.Device.SetAside, card.Device.SetAsideWhy)
	}
}
