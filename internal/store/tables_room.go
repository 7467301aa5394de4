package store

import (
	"strings"

	"ojime/internal/bench"
	"ojime/internal/store/db"
)

func toRoomReading(r db.RoomReading) bench.RoomReading { return bench.RoomReading(r) }

// SaveRoomReading appends a reading of a room, or takes it back.
func (t *Tx) SaveRoomReading(v bench.RoomReading) error {
	return saved("room reading", t.q.SaveRoomReading(t.ctx, db.SaveRoomReadingParams(v)))
}

// RoomReading reads one.
func (t *Tx) RoomReading(id string) (bench.RoomReading, error) {
	row, err := t.q.RoomReading(t.ctx, id)
	return bench.RoomReading(row), read("room reading", id, err)
}

// RoomReadings lists those of all prints in their order, also those taken back.
func (t *Tx) RoomReadings() ([]bench.RoomReading, error) {
	rows, err := t.q.RoomReadings(t.ctx)
	return list("room readings", rows, err, toRoomReading)
}

// RoomReadingsOfRuns lists those of prints by print, also those taken back.
func (t *Tx) RoomReadingsOfRuns(runIDs []string) (map[string][]bench.RoomReading, error) {
	return askLists(t, roomReadingsKey{strings.Join(runIDs, " ")}, []string{"room_reading"}, func() (map[string][]bench.RoomReading, error) { return t.roomReadingsOfRuns(runIDs) })
}

type roomReadingsKey struct{ runs string }

func (t *Tx) roomReadingsOfRuns(runIDs []string) (map[string][]bench.RoomReading, error) {
	out := map[string][]bench.RoomReading{}
	if len(runIDs) == 0 {
		return out, nil
	}
	rows, err := t.q.RoomReadingsOfRuns(t.ctx, runIDs)
	for _, r := range rows {
		out[r.RunID] = append(out[r.RunID], bench.RoomReading(r))
	}
	return out, read("room readings of", "prints", err)
}
