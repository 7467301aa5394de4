package store

import (
	"reflect"
	"regexp"
	"slices"
	"strings"
	"testing"

	"ojime/internal/bench"
)

// What a column may hold is said once, by the type in bench; a CHECK that names other words
// would refuse what the program allows, or let in what it does not know.
func TestTheSchemaAndTheTypesAllowTheSameWords(t *testing.T) {
	types := map[string]any{
		"machine": bench.Machine{}, "feature": bench.Feature{}, "review": bench.Review{}, "series": bench.Series{}, "reading": bench.Reading{}, "preflight": bench.Preflight{},
		"process_step": bench.ProcessStep{}, "waste": bench.Waste{}, "reminder": bench.Reminder{}, "device": bench.Device{}, "profile": bench.Profile{}, "run": bench.Run{},
		"specimen": bench.Specimen{}, "defect": bench.Defect{}, "reference": bench.Reference{}, "run_event": bench.RunEvent{}, "sitting": bench.Sitting{}, "photograph": bench.Photograph{}, "instrument": bench.Instrument{}, "photo_measure": bench.PhotoMeasure{}, "stress_series": bench.StressSeries{}, "specimen_stage": bench.SpecimenStage{}, "form": bench.Form{}, "form_reading": bench.FormReading{}, "rating_scale": bench.OwnScale{}, "unit_file": bench.UnitFile{}, "levelling": bench.Levelling{}, "software_step": bench.SoftwareStep{}, "room_reading": bench.RoomReading{}, "remark": bench.Remark{}, "unit_photograph": bench.UnitPhotograph{}, "panel": bench.Panel{}, "ballot": bench.Ballot{}, "finding": bench.Finding{}, "claim": bench.LedgerClaim{}, "interest": bench.Interest{}, "price": bench.Price{}, "equipment": bench.Equipment{},
	}
	check := regexp.MustCompile(`(\w+) IN \(('[^)]*)\)`)
	rows, err := open(t, t.TempDir()).reader.QueryContext(t.Context(), "SELECT name || '|' || sql FROM sqlite_schema WHERE type = 'table' AND sql IS NOT NULL")
	if err != nil {
		t.Fatal(err)
	}
	tables, err := firstColumn(rows)
	if err != nil {
		t.Fatal(err)
	}
	compared := 0
	for _, table := range tables {
		name, sql, _ := strings.Cut(table, "|")
		for _, found := range check.FindAllStringSubmatch(sql, -1) {
			kept := strings.Split(strings.NewReplacer("'", "", " ", "", "\n", "").Replace(found[2]), ",")
			of, known := types[name]
			if !known {
				t.Errorf("%s.%s allows %v, and no type is held against it", name, found[1], kept)
				continue
			}
			allowed := wordsOf(of, found[1])
			slices.Sort(kept)
			slices.Sort(allowed)
			if !slices.Equal(kept, allowed) {
				t.Errorf("%s.%s: the schema allows %v, its type %v", name, found[1], kept, allowed)
			}
			compared++
		}
	}
	if compared < 15 {
		t.Errorf("%d columns were compared; the schema has more", compared)
	}
}

// wordsOf are the words of the field of a type that a column keeps.
func wordsOf(of any, column string) []string {
	for _, f := range reflect.VisibleFields(reflect.TypeOf(of)) {
		if name, _, _ := strings.Cut(f.Tag.Get("json"), ","); name == column {
			return strings.Split(f.Tag.Get("enum"), ",")
		}
	}
	return nil
}
