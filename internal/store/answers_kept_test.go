package store

import (
	"fmt"
	"reflect"
	"strings"
	"testing"
)

// keptQuestions are the lists that are kept in memory, with a change of each table that they are read from.
func keptQuestions(ids []string, machine, resin string) (asked map[string]func(*Tx) (any, error), changes map[string]string) {
	asked = map[string]func(*Tx) (any, error){
		"ratings":     func(t *Tx) (any, error) { return t.RatingsOfRuns(ids) },
		"stages":      func(t *Tx) (any, error) { return t.StagesOfRuns(ids) },
		"photographs": func(t *Tx) (any, error) { return t.PhotographsOfRuns(ids) },
		"stressed":    func(t *Tx) (any, error) { return t.StressedOfRuns(ids) },
		"forms":       func(t *Tx) (any, error) { return t.FormReadingsOfRuns(ids) },
		"rooms":       func(t *Tx) (any, error) { return t.RoomReadingsOfRuns(ids) },
		"steps":       func(t *Tx) (any, error) { return t.StepsOfRuns(ids) },
		"times":       func(t *Tx) (any, error) { return t.TimesOfMachine(machine) },
		"wear":        func(t *Tx) (any, error) { return t.WearOfMachine(machine) },
		"of resin":    func(t *Tx) (any, error) { return t.RunsOfResin(resin) },
		"knots":       func(t *Tx) (any, error) { return t.EventsOfMachine(machine) },
		"places":      func(t *Tx) (any, error) { return t.PlacesOfMachine(machine) },
		"judged":      func(t *Tx) (any, error) { return t.JudgedTallies() },
		"symptoms":    func(t *Tx) (any, error) { return t.PrintedSymptoms() },
		"tallies":     func(t *Tx) (any, error) { return t.TalliesOfRuns(ids) },
		"thread":      func(t *Tx) (any, error) { return t.ThreadOf(machine, 0, 1<<60) },
	}
	changes = map[string]string{
		"rating": "UPDATE rating SET taken_back_ms = 7, taken_back_why = 'x'", "specimen_stage": "UPDATE specimen_stage SET taken_back_ms = 7", "photograph": "UPDATE photograph SET note = note || 'x'",
		"stress_test": "UPDATE stress_test SET note = note || 'x'", "stress_series": "UPDATE stress_series SET under = under || 'x'", "form_reading": "UPDATE form_reading SET recorded_ms = recorded_ms + 1",
		"room_reading": "UPDATE room_reading SET note = note || 'x'", "process_step": "DELETE FROM process_step", "run": "UPDATE run SET started_ms = started_ms - 1, worn_layers = worn_layers + 1",
		"machine_event": "UPDATE machine_event SET note = note || 'x'", "tally": "UPDATE tally SET whole = whole + 1", "specimen": "UPDATE specimen SET x_mm = x_mm + 1, piece_id = piece_id", "defect": "UPDATE defect SET symptom = symptom || 'x'",
	}
	return asked, changes
}

// Whatever is written, and by whichever way, lists that are kept are told as SQLite tells them.
func TestKeptListsAreToldAsTheyStand(t *testing.T) {
	s, _, _ := unpacked(t, "testdata/record-36.db.gz")
	var ids []string
	machine, resin := "", ""
	if err := s.Read(t.Context(), func(tx *Tx) error {
		runs, err := tx.Runs()
		for _, r := range runs {
			ids, machine, resin = append(ids, r.ID), r.MachineID, r.ResinID
		}
		return err
	}); err != nil {
		t.Fatal(err)
	}
	asked, changes := keptQuestions(ids, machine, resin)
	told := func(name string) any {
		t.Helper()
		var kept, fresh any
		err := s.Read(t.Context(), func(tx *Tx) (err error) {
			if kept, err = asked[name](tx); err != nil {
				return err
			}
			memory := tx.kept
			tx.kept = nil
			fresh, err = asked[name](tx)
			tx.kept = memory
			return err
		})
		if err != nil {
			t.Fatalf("%s: %v", name, err)
		}
		if !reflect.DeepEqual(kept, fresh) {
			t.Errorf("%s: told %d, on record %d", name, reflect.ValueOf(kept).Len(), reflect.ValueOf(fresh).Len())
		}
		if reflect.ValueOf(kept).Len() == 0 && name != "steps" {
			t.Fatalf("the record holds no %s, so that nothing is tried", name)
		}
		return kept
	}
	same := func(a, b any) bool { return reflect.ValueOf(a).Pointer() == reflect.ValueOf(b).Pointer() }
	before := map[string]any{}
	for name := range asked {
		before[name] = told(name)
		if again := told(name); !same(again, before[name]) {
			t.Errorf("%s are read twice while nothing is written", name)
		}
	}
	for table, change := range changes {
		if err := s.Write(t.Context(), func(tx *Tx) error {
			_, err := tx.tx.ExecContext(t.Context(), change)
			return err
		}); err != nil {
			t.Fatalf("%s: %v", table, err)
		}
		anew := 0
		for name := range asked {
			if now := told(name); !same(now, before[name]) {
				anew++
				before[name] = now
			}
		}
		if anew == 0 || anew > 6 {
			t.Errorf("a change of %s has %d lists read anew", table, anew)
		}
	}
	// A change that is undone shows nowhere, and one that is told row by row is heard too.
	if err := s.Write(t.Context(), func(tx *Tx) error {
		if _, err := tx.tx.ExecContext(t.Context(), "DELETE FROM rating"); err != nil {
			return err
		}
		return fmt.Errorf("no")
	}); err == nil || !strings.Contains(err.Error(), "no") {
		t.Fatal(err)
	}
	told("ratings")
	if _, _, err := s.WriteTold(t.Context(), 100_000, func(tx *Tx) error {
		_, err := tx.tx.ExecContext(t.Context(), "UPDATE rating SET at_ms = at_ms + 1")
		return err
	}); err != nil {
		t.Fatal(err)
	}
	told("ratings")
}

// Who began before a change goes on being told what was, and what they were told is not kept for others.
func TestAnOlderTransactionKeepsItsLists(t *testing.T) {
	s, _, _ := unpacked(t, "testdata/record-36.db.gz")
	first := func(tx *Tx) string {
		runs, err := tx.Runs()
		if err != nil {
			t.Fatal(err)
		}
		var ids []string
		for _, r := range runs {
			ids = append(ids, r.ID)
		}
		lists, err := tx.RatingsOfRuns(ids)
		if err != nil {
			t.Fatal(err)
		}
		for _, id := range ids {
			if len(lists[id]) > 0 {
				return lists[id][0].TakenBackWhy
			}
		}
		t.Fatal("no rating on record")
		return ""
	}
	if err := s.Read(t.Context(), func(old *Tx) error {
		was := first(old)
		if err := s.Write(t.Context(), func(tx *Tx) error {
			_, err := tx.tx.ExecContext(t.Context(), "UPDATE rating SET taken_back_ms = 7, taken_back_why = 'later'")
			return err
		}); err != nil {
			return err
		}
		if now := first(old); now != was {
			t.Errorf("before others looked it is told %q", now)
		}
		if err := s.Read(t.Context(), func(tx *Tx) error {
			if now := first(tx); now != "later" {
				t.Errorf("who came after is told %q", now)
			}
			return nil
		}); err != nil {
			return err
		}
		if now := first(old); now != was {
			t.Errorf("after others looked it is told %q", now)
		}
		return nil
	}); err != nil {
		t.Fatal(err)
	}
}

func TestAnswersThatAreKeptAreBounded(t *testing.T) {
	k := newPrintsKept()
	for i := range 3 * mostAnswersKept {
		k.keepAnswer(i, nil, i, 0)
	}
	if n := len(k.answers.known); n > mostAnswersKept {
		t.Errorf("%d answers are held", n)
	}
	if got, stands := k.answer(3*mostAnswersKept-1, nil, 0); !stands || got != 3*mostAnswersKept-1 {
		t.Errorf("the last is told as %v, %v", got, stands)
	}
}
