package work_test

import (
	"bytes"
	"crypto/rand"
	"errors"
	"strings"
	"testing"
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/store/storetest"
	"ojime/internal/work"
	"ojime/internal/work/dataset"
)

func TestTheRecordTravels(t *testing.T) {
	d := newDesk(t)
	sheet := d.run(nil)
	must(d.w.Inspect.RecordReadings(t.Context(), sheet.Run.ID, []bench.Reading{{SpecimenID: sheet.Specimens[0].ID, FeatureID: d.piece.Features[2].ID, State: quantity.Ptr("present")}}, false))(t)
	must(d.w.FirstDays.Remark(t.Context(), d.machine.ID, bench.Remark{Kind: "pleasure", About: "vat", What: "two spouts", Often: "often", Weight: 2}))(t)
	must(d.w.Printing.ReadRoom(t.Context(), sheet.Run.ID, bench.RoomReading{Moment: "start", RoomTempC: quantity.Ptr(21.0)}))(t)
	d.rates(d.sitting("raw", nil), sheet.Run.ID, sheet.Specimens[0], 3)
	d.photographed(sheet, 0, edgePNG(t, 2), nil)
	d.checked(10.01)
	study := must(d.w.Instruments.BeginStudy(t.Context(), d.tool.ID, bench.GaugeStudy{What: "the width", Parts: bench.Notes{"a", "b"}, Operators: bench.Notes{"Marn"}, Repeats: 2}))(t)
	must(d.w.Instruments.ReadStudy(t.Context(), study.Study.ID, 10.01, false))(t)
	d.stressed()
	must(d.w.Sliced.SliceForRun(t.Context(), sheet.Run.ID, uploadOf("wedge.zip", slicedFor(t, 140, 140, 1, "{}")), nil))(t)
	asked := must(d.w.Reviews.SaveReview(t.Context(), bench.Review{Question: "Which?", Policy: "maker_default", MachineIDs: bench.IDs{d.machine.ID}, ResinIDs: bench.IDs{d.resin.ID}, PieceIDs: bench.IDs{d.piece.Piece.ID}}))(t)
	d.polled(asked)
	d.found(asked)
	text := exported(t, d.w)
	if _, err := d.w.Record.Import(t.Context(), bytes.NewReader(text)); !errors.Is(err, bench.ErrConflict) {
		t.Errorf("import into a record that holds something: %v", err)
	}
	empty := storetest.Open(t)
	there := work.New(empty, time.Now, rand.Reader)
	must(there.Record.Import(t.Context(), bytes.NewReader(text)))(t)
	if again := exported(t, there); !bytes.Equal(again, text) {
		t.Error("the record read back is another")
	}
	record := recordOf(t, text)
	if wrong := must(there.Record.Check(t.Context()))(t); len(wrong) > 0 {
		t.Errorf("check: %v", wrong)
	}
	review := record.Reviews[0].ID
	writeUp := string(must(there.Publish.WriteUp(t.Context(), review))(t))
	if !strings.Contains(writeUp, "# Which?") || !strings.Contains(writeUp, "Not stated in the reviewer's own words.") {
		t.Errorf("write-up: %s", writeUp)
	}
	for _, table := range dataset.Names {
		if rows := strings.Count(string(must(there.Dataset.Table(t.Context(), review, table))(t)), "\n"); rows < 2 {
			t.Errorf("%s.csv has %d lines", table, rows)
		}
	}
}
