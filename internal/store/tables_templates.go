package store

import (
	"ojime/internal/bench"
	"ojime/internal/store/db"
)

// Workroom reads one room, or bench.ErrNotFound.
func (t *Tx) Workroom(id string) (bench.Workroom, error) {
	row, err := t.q.WorkroomByID(t.ctx, id)
	return bench.Workroom(row), read("room", id, err)
}

// SaveWorkroom writes a room; its name stays as it was first written.
func (t *Tx) SaveWorkroom(v bench.Workroom) error {
	return saved("room", t.q.SaveWorkroom(t.ctx, db.SaveWorkroomParams(v)))
}

// Workrooms lists every room, also those retired.
func (t *Tx) Workrooms() ([]bench.Workroom, error) {
	rows, err := t.q.Workrooms(t.ctx)
	return list("rooms", rows, err, func(r db.Workroom) bench.Workroom { return bench.Workroom(r) })
}

// Checklist reads one checklist, or bench.ErrNotFound.
func (t *Tx) Checklist(id string) (bench.Checklist, error) {
	row, err := t.q.ChecklistByID(t.ctx, id)
	return bench.Checklist(row), read("checklist", id, err)
}

// SaveChecklist writes a checklist; its kind stays as it was first written.
func (t *Tx) SaveChecklist(v bench.Checklist) error {
	return saved("checklist", t.q.SaveChecklist(t.ctx, db.SaveChecklistParams(v)))
}

// Checklists lists those of all kinds of pieces.
func (t *Tx) Checklists() ([]bench.Checklist, error) {
	rows, err := t.q.Checklists(t.ctx)
	return list("checklists", rows, err, func(r db.Checklist) bench.Checklist { return bench.Checklist(r) })
}

// MachineReading is a reading of a room with the print that it was taken at.
type MachineReading struct {
	MachineID, RunCode string
	bench.RoomReading
}

// RoomReadingsBetween lists what was read between two instants at the prints of all machines, the
// last first, without what was taken back.
func (t *Tx) RoomReadingsBetween(fromMS, toMS int64) ([]MachineReading, error) {
	rows, err := t.q.RoomReadingsBetween(t.ctx, db.RoomReadingsBetweenParams{FromMs: fromMS, ToMs: toMS})
	return list("readings of rooms", rows, err, func(r db.RoomReadingsBetweenRow) MachineReading {
		return MachineReading{r.MachineID, r.Code, toRoomReading(r.RoomReading)}
	})
}

// UnitPhotograph reads one, or bench.ErrNotFound.
func (t *Tx) UnitPhotograph(id string) (bench.UnitPhotograph, error) {
	row, err := t.q.UnitPhotographByID(t.ctx, id)
	return bench.UnitPhotograph(row), read("photograph of a unit", id, err)
}

// SaveUnitPhotograph appends a photograph of a unit, or takes it back.
func (t *Tx) SaveUnitPhotograph(v bench.UnitPhotograph) error {
	return saved("photograph of a unit", t.q.SaveUnitPhotograph(t.ctx, db.SaveUnitPhotographParams(v)))
}

// UnitPhotographs lists those of all machines in their order, also those taken back.
func (t *Tx) UnitPhotographs() ([]bench.UnitPhotograph, error) {
	rows, err := t.q.UnitPhotographs(t.ctx)
	return list("photographs of units", rows, err, func(r db.UnitPhotograph) bench.UnitPhotograph { return bench.UnitPhotograph(r) })
}

// UnitPhotographsOfMachine lists those of one machine in their order, also those taken back.
func (t *Tx) UnitPhotographsOfMachine(machineID string) ([]bench.UnitPhotograph, error) {
	rows, err := t.q.UnitPhotographsOfMachine(t.ctx, machineID)
	return list("photographs of the unit of "+machineID, rows, err, func(r db.UnitPhotograph) bench.UnitPhotograph { return bench.UnitPhotograph(r) })
}

// PictureFiles lists the files of all photographs: of specimens, references and units.
func (t *Tx) PictureFiles() ([]bench.PictureFiles, error) {
	photographs, err := t.Photographs()
	if err != nil {
		return nil, err
	}
	units, err := t.UnitPhotographs()
	out := make([]bench.PictureFiles, 0, len(photographs)+len(units))
	for _, p := range photographs {
		out = append(out, p.Pictures())
	}
	for _, p := range units {
		out = append(out, p.Pictures())
	}
	return out, err
}
