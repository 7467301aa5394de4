package work_test

import (
	"errors"
	"strings"
	"testing"
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/work/calendar"
)

// lane is the only machine of a calendar on which something prints or waits.
func (d *desk) lane(by *int64) (calendar.Calendar, calendar.Lane) {
	d.t.Helper()
	c := must(d.w.Calendar.Calendar(d.t.Context(), by))(d.t)
	if len(c.Machines) != 1 {
		d.t.Fatalf("%d machines in the calendar", len(c.Machines))
	}
	return c, c.Machines[0]
}

func codes(l calendar.Lane) string {
	var out []string
	for _, p := range l.Prints {
		out = append(out, p.Code)
	}
	return strings.Join(out, " ")
}

func TestWhatWaitsIsLaidIntoTheHoursOfOnePerson(t *testing.T) {
	d := newDesk(t)
	d.clock = time.Date(2026, 9, 1, 9, 0, 0, 0, time.Local) // a Tuesday
	if c := must(d.w.Calendar.Calendar(t.Context(), nil))(t); len(c.Machines) != 0 || len(c.Days) < 7 {
		t.Fatalf("an empty record has %d machines and %d days", len(c.Machines), len(c.Days))
	}
	d.withVat(40, 10)
	plate := d.laid(6)
	c, lane := d.lane(nil)
	p := lane.Prints[0]
	start := d.clock.Add(25 * time.Minute)
	if *p.TurnMS != c.NowMS || *p.StartMS != start.UnixMilli() || *p.TakesS != *plate.Time.BestS || p.VatChange {
		t.Errorf("%+v", p)
	}
	// Nothing is known of its wash and cure: ten minutes of dripping and twenty of drying are usual.
	if p.AfterS != 1800 || !strings.Contains(p.AfterSays, "left out: wash, supports and cure") || *p.ReadyMS-*p.OffMS != 1800_000 {
		t.Errorf("after it: %v %s", p.AfterS, p.AfterSays)
	}
	// A plate in another resin is begun after those in the resin of the vat, whatever was laid first.
	other := must(d.w.Kit.SaveResin(t.Context(), bench.Resin{Name: "Pale", Colour: "#eeeeee", BottleML: quantity.Ptr(500.0), StatedWashS: quantity.Ptr(180.0), StatedCureS: quantity.Ptr(120.0)}))(t).Resin
	settings := must(d.w.Kit.AddProfile(t.Context(), bench.Profile{MachineID: d.machine.ID, ResinID: other.ID, LayerUM: 50, ExposureS: quantity.Ptr(2.0), BottomLayers: quantity.Ptr[int64](4), BottomExposureS: quantity.Ptr(30.0), Basis: "default"}))(t)
	draft := d.plateDraft()
	draft.Plate.ProfileID, draft.Plate.BottleID, draft.Placements = &settings.ID, nil, d.placementsOf(plate)
	d.clock = d.clock.Add(time.Second)
	pale := must(d.w.Planning.SavePlate(t.Context(), draft))(t)
	d.clock = d.clock.Add(time.Second)
	third := d.laid(2)
	d.run(func(*bench.Run) {})
	_, lane = d.lane(nil)
	if got, want := codes(lane), strings.Join([]string{plate.Plate.Code, third.Plate.Code, pale.Plate.Code}, " "); got != want || lane.VatChanges != 1 || !lane.Prints[2].VatChange || lane.InVat != "Plain Grey" {
		t.Errorf("order %s, want %s; %+v", got, want, lane)
	}
	if last := lane.Prints[2]; last.AfterS != 1800+300 || *last.StartMS-*last.TurnMS != (25+20)*60_000 {
		t.Errorf("with a change of resin: %+v", last)
	}
	// What is printed or withdrawn waits no more.
	must(d.w.Planning.WithdrawPlate(t.Context(), pale.Plate.ID, pale.Plate.Version, "not needed"))(t)
	if _, lane = d.lane(nil); len(lane.Prints) != 2 {
		t.Errorf("%d wait", len(lane.Prints))
	}
}

func TestWhatPrintsNowMovesWhatFollows(t *testing.T) {
	d := newDesk(t)
	d.clock = time.Date(2026, 9, 1, 10, 0, 0, 0, time.Local)
	d.withVat(40, 10)
	run := d.prepared(15)
	waiting := d.laid(6)
	if _, lane := d.lane(nil); codes(lane) != run.Run.Code+" "+waiting.Plate.Code || lane.Now != nil || lane.Prints[0].TopUpMS == nil {
		t.Errorf("%+v", lane)
	}
	d.happens(run, "start", nil)
	_, lane := d.lane(nil)
	ends := *lane.Now.EndsMS
	if lane.Now.Code != run.Run.Code || codes(lane) != waiting.Plate.Code || *lane.Prints[0].TurnMS < ends-1000 || *lane.Prints[0].TurnMS > ends+1000 {
		t.Errorf("it ends %v, the next is made ready %v", ends, *lane.Prints[0].TurnMS)
	}
	// Paused for half an hour, it ends half an hour later, and so does what follows.
	before := *lane.Prints[0].StartMS
	d.clock = d.clock.Add(time.Minute)
	d.happens(run, "pause", nil)
	d.clock = d.clock.Add(30 * time.Minute)
	if _, lane = d.lane(nil); lane.Now.State != "paused" || *lane.Prints[0].StartMS < before+30*60_000-2000 || *lane.Prints[0].StartMS > before+30*60_000+2000 {
		t.Errorf("paused: the next begins %v, before %v", *lane.Prints[0].StartMS, before)
	}
	d.happens(run, "stop", nil)
	for i := range run.Specimens {
		ruin(&run.Specimens[i], "lost", "off_plate", "printed", "machine")
	}
	must(d.w.Inspect.JudgeSpecimens(t.Context(), run.Run.ID, run.Specimens))(t)
	c, _ := d.lane(nil)
	if len(c.Notes) == 0 || !strings.Contains(c.Notes[0].Says, run.Run.Code+" on Ossik 7 gave nothing usable and is not planned again") {
		t.Errorf("%+v", c.Notes)
	}
}

func TestByWhenItMustBeginIsSaid(t *testing.T) {
	d := newDesk(t)
	d.clock = time.Date(2026, 9, 1, 9, 0, 0, 0, time.Local)
	plate := d.laid(2)
	tonight := d.clock.Add(9 * time.Hour).UnixMilli()
	c, lane := d.lane(&tonight)
	p := lane.Prints[0]
	// Taken off by half past five at the latest, for half an hour of dripping and drying.
	if want := tonight - 1800_000 - int64(1000**plate.Time.BestS); !p.InTime || *p.LatestMS < want-1000 || *p.LatestMS > want+1000 {
		t.Errorf("begins at the latest %v, want %v", *p.LatestMS, want)
	}
	if c.Choices[0].Words != "tonight" || c.Choices[0].AtMS != tonight {
		t.Errorf("choices %+v", c.Choices)
	}
	soon := c.NowMS + 60_000
	if c, lane = d.lane(&soon); lane.Prints[0].InTime || lane.Prints[0].LatestMS != nil || !strings.Contains(c.Notes[0].Says, "cannot be ready by then") {
		t.Errorf("%+v %+v", lane.Prints[0], c.Notes)
	}
	past := c.NowMS - 1
	_, err := d.w.Calendar.Calendar(t.Context(), &past)
	var field *quantity.FieldError
	if !errors.As(err, &field) || field.Path != "ready_by_ms" {
		t.Errorf("an hour that is over: %v", err)
	}
}

func TestTheCalendarIsTakenIntoAnother(t *testing.T) {
	d := newDesk(t)
	d.clock = time.Date(2026, 9, 1, 9, 0, 0, 0, time.UTC)
	plate := d.laid(6)
	file := string(must(d.w.Calendar.ICS(t.Context()))(t))
	for _, want := range []string{"BEGIN:VCALENDAR\r\n", "UID:" + plate.Plate.Code + "@ojime\r\n", "SUMMARY:Make Ossik 7 ready for " + plate.Plate.Code, "DTSTAMP:20260901T090000Z", "END:VCALENDAR"} {
		if !strings.Contains(file, want) {
			t.Errorf("%q is not in\n%s", want, file)
		}
	}
	for _, line := range strings.Split(file, "\r\n") {
		if len(line) > 75 {
			t.Errorf("a line of %d bytes: %s", len(line), line)
		}
	}
}

// A print whose time nobody knows is not laid out, and neither is what waits behind it.
func TestAnUnknownTimeIsNotGuessed(t *testing.T) {
	d := newDesk(t)
	sealed := must(d.w.Kit.AddProfile(t.Context(), bench.Profile{MachineID: d.machine.ID, ResinID: d.resin.ID, LayerUM: 50, SealedName: "Standard", Basis: "sealed"}))(t)
	plate := d.laid(2)
	draft := d.plateDraft()
	draft.Plate.ProfileID, draft.Placements = &sealed.ID, d.placementsOf(plate)
	must(d.w.Planning.WithdrawPlate(t.Context(), plate.Plate.ID, plate.Plate.Version, "later"))(t)
	hidden := must(d.w.Planning.SavePlate(t.Context(), draft))(t)
	d.clock = d.clock.Add(time.Second)
	behind := d.laid(3)
	c, lane := d.lane(nil)
	if codes(lane) != hidden.Plate.Code+" "+behind.Plate.Code || lane.Prints[0].StartMS != nil || lane.Prints[1].StartMS != nil || c.ReadyMS != nil {
		t.Fatalf("%+v", lane)
	}
	if !strings.Contains(lane.Prints[0].Reason, "time is not known") || !strings.Contains(lane.Prints[1].Reason, "waits behind") {
		t.Errorf("%q, %q", lane.Prints[0].Reason, lane.Prints[1].Reason)
	}
}

func TestAWeekOfFullPlates(t *testing.T) {
	d := newDesk(t)
	f := must(d.w.Planning.Fill(t.Context(), d.piece.Piece.ID, 100, []string{d.profile.ID}, 4))(t)
	w := f.Sides[0].Week
	if w == nil || w.Copies != w.Plates*f.Sides[0].Load.Capacity || w.Plates == 0 || w.SameDay != f.Sides[0].Load.Capacity {
		t.Fatalf("%+v", w)
	}
	if !strings.Contains(w.Says, "pieces a week on") || !strings.Contains(w.Says, "begun at 9:00, a full plate of") {
		t.Error(w.Says)
	}
}
