package work_test

import (
	"errors"
	"strings"
	"testing"
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work/planning"
	"ojime/internal/work/shorthand"
)

// says keeps a line as it is understood.
func (d *desk) says(text string) shorthand.Understood {
	d.t.Helper()
	seen := must(d.w.Shorthand.Understand(d.t.Context(), text))(d.t)
	kept := must(d.w.Shorthand.Keep(d.t.Context(), shorthand.Saying{Text: text, Says: seen.Says, Confirmed: true}))(d.t)
	if kept != seen {
		d.t.Errorf("%q: shown %+v, kept %+v", text, seen, kept)
	}
	return kept
}

func TestADayAtTheBenchInLines(t *testing.T) {
	d := newDesk(t)
	d.withVat(60, 10)
	run := d.prepared(50)
	_, err := d.w.Shorthand.Understand(t.Context(), "top up 20 on "+d.machine.Name)
	if wantField(t, err, "text"); !strings.Contains(err.Error(), "nothing does") {
		t.Error(err)
	}
	d.happens(run, "start", nil)
	began := d.clock
	d.clock = d.clock.Add(30 * time.Minute)

	if got := d.says("top up 20,5 on " + d.machine.Name); got.ID != run.Run.ID || got.Says != "20.5 ml poured in, now, while "+run.Run.Code+" ("+run.Printed+" on "+d.machine.Name+") prints." {
		t.Errorf("%+v", got)
	}
	d.says("note " + run.Run.Code + ": a thread at the corner")
	live := must(d.w.Printing.Live(t.Context(), run.Run.ID))(t)
	if live.AddedML != 20.5 || len(live.Events) != 3 || live.Events[2].Note != "a thread at the corner" {
		t.Errorf("%v ml, %+v", live.AddedML, live.Events)
	}

	d.clock = d.clock.Add(3 * time.Hour)
	if _, err := d.w.Shorthand.Understand(t.Context(), run.Run.Code+" done 2h05 all whole but 9"); err == nil || !strings.Contains(err.Error(), "has 6 copies") {
		t.Errorf("a copy that is none: %v", err)
	}
	got := d.says(strings.ToLower(run.Run.Code) + " done 2h05 all whole but 3 and 5")
	if !strings.HasSuffix(got.Says, "finished after 2 h 05 min: 4 copies are whole; copies 3 and 5 wait to be judged.") {
		t.Errorf("%q", got.Says)
	}
	sheet := must(d.w.Printing.RunSheet(t.Context(), run.Run.ID))(t)
	if sheet.Run.EndedMS == nil || *sheet.Run.EndedMS != began.Add(125*time.Minute).UnixMilli() || sheet.Counts.Whole != 4 || sheet.Counts.Pending != 2 {
		t.Errorf("ended %v, %+v", sheet.Run.EndedMS, sheet.Counts)
	}
	// What is judged stays judged; what became of the rest is said on the print's page.
	if _, err := d.w.Shorthand.Understand(t.Context(), run.Run.Code+" all whole but 3 and 5"); err == nil || !strings.Contains(err.Error(), "judges nothing") {
		t.Errorf("%v", err)
	}
	lost := sheet.Specimens[2]
	ruin(&lost, "lost", "void", "printed", "machine")
	must(d.w.Inspect.JudgeSpecimens(t.Context(), run.Run.ID, []bench.Specimen{lost}))(t)
	if _, err := d.w.Shorthand.Understand(t.Context(), run.Run.Code+" all whole"); err == nil || !strings.Contains(err.Error(), "calls copy 3 whole, which was judged as lost") {
		t.Errorf("%v", err)
	}

	if got := d.says("weigh " + d.bottle.Code + " 412 g"); got.About != "resin" || got.ID != d.resin.ID || got.Says != d.bottle.Code+" of "+d.resin.Name+" weighs 412 g, the bottle included." {
		t.Errorf("%+v", got)
	}
	if cards := must(d.w.Upkeep.BottleCards(t.Context()))(t); len(cards) != 1 || len(cards[0].Events) == 0 || *cards[0].Events[len(cards[0].Events)-1].GrossG != 412 {
		t.Errorf("%+v", cards)
	}
	d.says("relevel " + d.machine.Name + " closer by a card")
	var last bench.MachineEvent
	if err := d.w.Store.Read(t.Context(), func(tx *store.Tx) error {
		events, err := tx.EventsOfMachine(d.machine.ID)
		last = events[len(events)-1]
		return err
	}); err != nil {
		t.Fatal(err)
	}
	if len(last.Kinds) != 1 || last.Kinds[0] != "relevel" || last.Note != "closer by a card" || last.AtMS != d.clock.UnixMilli() {
		t.Errorf("%+v", last)
	}
}

// A line is kept as it was shown, or not at all: where the record moved on meanwhile, where an
// end is hard to believe, and where a part of it cannot be kept.
func TestALineIsKeptAsItWasShownOrNotAtAll(t *testing.T) {
	d := newDesk(t)
	run := d.prepared(50)
	d.happens(run, "start", nil)
	d.clock = d.clock.Add(10 * time.Hour)
	text := run.Run.Code + " done all whole"
	seen := must(d.w.Shorthand.Understand(t.Context(), text))(t)
	if _, err := d.w.Shorthand.Keep(t.Context(), shorthand.Saying{Text: text, Says: seen.Says}); !errors.Is(err, bench.ErrQuestioned) {
		t.Errorf("ten hours for half an hour of print: %v", err)
	}
	if _, err := d.w.Shorthand.Keep(t.Context(), shorthand.Saying{Text: text, Says: "something else", Confirmed: true}); !errors.Is(err, bench.ErrConflict) || !strings.Contains(err.Error(), seen.Says) {
		t.Errorf("%v", err)
	}
	after := must(d.w.Printing.RunSheet(t.Context(), run.Run.ID))(t)
	if after.Run.EndedMS != nil || after.Counts.Whole != 0 {
		t.Errorf("a line that was refused left %+v, %v", after.Counts, after.Run.EndedMS)
	}
	_, err := d.w.Shorthand.Understand(t.Context(), "print it again")
	wantField(t, err, "text")
}

func TestAPlateThatWasPrintedAsPlannedIsPutOnRecordInOneLine(t *testing.T) {
	d := newDesk(t)
	draft := d.plateDraft()
	draft.Plate.WashS, draft.Plate.Supports = quantity.Ptr(240.0), quantity.Ptr("light")
	packed := must(d.w.Planning.PackPlate(t.Context(), draft, &planning.Packing{PieceID: d.piece.Piece.ID, Copies: 3, ScalePct: 100}))(t)
	draft.Placements = packed.Placements
	plate := must(d.w.Planning.SavePlate(t.Context(), draft))(t)
	d.clock = d.clock.Add(3 * time.Hour)
	text := plate.Plate.Code + " done 0h20 all whole but 2"
	if _, err := d.w.Shorthand.Understand(t.Context(), plate.Plate.Code+" done 20 min all whole but 4"); err == nil || !strings.Contains(err.Error(), "has 3 copies") {
		t.Errorf("a copy that is none: %v", err)
	}
	seen := must(d.w.Shorthand.Understand(t.Context(), text))(t)
	if want := plate.Plate.Code + " (3 × Wedge on Ossik 7), as planned: finished after 20 min, now: 2 copies are whole; copy 2 waits to be judged."; seen.Says != want || seen.ID != "" {
		t.Fatalf("%+v, want %q", seen, want)
	}
	kept := must(d.w.Shorthand.Keep(t.Context(), shorthand.Saying{Text: text, Says: seen.Says, Confirmed: true}))(t)
	sheet := must(d.w.Printing.RunSheet(t.Context(), kept.ID))(t)
	r := sheet.Run
	if *r.PlateID != plate.Plate.ID || *r.EndedMS != d.clock.UnixMilli() || *r.EndedMS-r.StartedMS != 20*60_000 || r.EndedHow != "finished" || *r.WashS != 240 || *r.Supports != "light" || *r.BottleID != d.bottle.ID || *r.Software != "Carver" {
		t.Errorf("%+v", r)
	}
	var outcomes []string
	for _, s := range sheet.Specimens {
		outcomes = append(outcomes, s.Outcome)
	}
	if got := strings.Join(outcomes, " "); got != "whole pending whole" {
		t.Error(got)
	}
	// It is printed now: its code names a plan no more.
	if _, err := d.w.Shorthand.Understand(t.Context(), text); err == nil {
		t.Error("a plate that was printed is printed again in one line")
	}
}

func TestTheRoomOfAPrintIsSaidInOneLine(t *testing.T) {
	d := newDesk(t)
	d.withVat(60, 10)
	run := d.prepared(50)
	d.happens(run, "start", nil)
	named := run.Run.Code + " (" + run.Printed + " on " + d.machine.Name + ")"
	if got := d.says("room 21,5 48 on " + d.machine.Name); got.Says != "Room of "+named+", at its start: 21.5 °C, 48 % humidity." {
		t.Error(got.Says)
	}
	d.clock = d.clock.Add(time.Hour)
	if got := d.says(run.Run.Code + " room 25"); got.Says != "Room of "+named+", while it prints: 25 °C." {
		t.Error(got.Says)
	}
	sheet := must(d.w.Printing.RunSheet(t.Context(), run.Run.ID))(t)
	if len(sheet.RoomReadings) != 2 || sheet.RoomReadings[1].Moment != "during" || !sheet.Room.Drifted || *sheet.Run.RoomTempC != 23.25 {
		t.Errorf("%+v", sheet.Room)
	}
}
