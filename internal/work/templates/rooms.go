package templates

import (
	"cmp"
	"context"
	"fmt"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/machine"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work/kit"
	"ojime/internal/work/task"
)

// RoomCard is a room, with the machines that stand in it now and what the next print in it is
// expected to be made in.
type RoomCard struct {
	Room     bench.Workroom `json:"room"`
	Machines []Standing     `json:"machines"`
	Expected Expectation    `json:"expected"`
}

// Standing is a machine in its room.
type Standing struct {
	ID   string `json:"id"`
	Code string `json:"code"`
	Name string `json:"name"`
}

// Rooms are those there are, and the machines that stand in none.
type Rooms struct {
	Rooms    []RoomCard `json:"rooms"`
	Nowhere  []Standing `json:"nowhere"`
	Machines []Standing `json:"machines"`
}

// Expectation is what a print is expected to be made in: Room is empty where the machine stands in
// none, ReadAt is the print at which it was read last.
type Expectation struct {
	machine.Expected
	Room   string `json:"room"`
	ReadAt string `json:"read_at"`
}

// Rooms lists the rooms in use.
func (w *Tasks) Rooms(ctx context.Context) (out Rooms, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		out, err = w.rooms(t)
		return err
	})
	return out, err
}

func (w *Tasks) rooms(t *store.Tx) (Rooms, error) {
	out := Rooms{Rooms: []RoomCard{}, Nowhere: []Standing{}, Machines: []Standing{}}
	rooms, err := t.Workrooms()
	if err != nil {
		return out, err
	}
	e, err := newExpecter(t)
	if err != nil {
		return out, err
	}
	now, in := w.NowMS(), map[string][]Standing{}
	for _, m := range e.machines {
		s, name := Standing{m.ID, m.Code, m.Name}, e.roomOf(m.ID, now)
		out.Machines = append(out.Machines, s)
		if !slices.ContainsFunc(rooms, func(r bench.Workroom) bool { return r.Name == name && r.RetiredMS == nil }) {
			out.Nowhere = append(out.Nowhere, s)
			continue
		}
		in[name] = append(in[name], s)
	}
	for _, r := range rooms {
		if r.RetiredMS != nil {
			continue
		}
		card := RoomCard{Room: r, Machines: []Standing{}}
		card.Machines = append(card.Machines, in[r.Name]...)
		if card.Expected, err = e.in(t, r.Name, now); err != nil {
			return out, err
		}
		out.Rooms = append(out.Rooms, card)
	}
	return out, nil
}

var roomEntry = task.Entry[bench.Workroom]{Table: "workroom",
	Head: func(r *bench.Workroom) task.Head {
		return task.Head{ID: &r.ID, Code: &r.Code, Version: &r.Version, CreatedMS: &r.CreatedMS}
	},
	Get: (*store.Tx).Workroom, Put: (*store.Tx).SaveWorkroom}

// SaveRoom enters a room, or says what it is usually like now; its name stays. One that was taken out of
// use is in use again when it is entered by its name.
func (w *Tasks) SaveRoom(ctx context.Context, r bench.Workroom) (Rooms, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (Rooms, error) {
		r.Name = strings.TrimSpace(r.Name)
		if err := r.Check(); err != nil {
			return Rooms{}, err
		}
		all, err := t.Workrooms()
		if err != nil {
			return Rooms{}, err
		}
		for _, other := range all {
			if r.ID == "" && other.RetiredMS != nil && strings.EqualFold(other.Name, r.Name) {
				r.ID, r.Version, r.Name = other.ID, other.Version, other.Name // it is in use again
			}
			if other.ID != r.ID && strings.EqualFold(other.Name, r.Name) {
				return Rooms{}, quantity.Errorf("name", "is that of a room already on record; give this one another")
			}
			if other.ID == r.ID && other.Name != r.Name {
				return Rooms{}, quantity.Errorf("name", "is %.70q; the room is called %s where machines stood in it, and keeps that name", r.Name, other.Name)
			}
		}
		if _, err := task.Put(w.Base, t, roomEntry, r); err != nil {
			return Rooms{}, err
		}
		return w.rooms(t)
	})
}

// RetireRoom takes a room out of use; machines that stand in it must be placed elsewhere first.
func (w *Tasks) RetireRoom(ctx context.Context, id string, version int64) (Rooms, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (Rooms, error) {
		r, err := t.Workroom(id)
		if err != nil {
			return Rooms{}, err
		}
		have, err := w.rooms(t)
		if err != nil {
			return have, err
		}
		for _, card := range have.Rooms {
			if card.Room.ID == id && len(card.Machines) > 0 {
				return have, fmt.Errorf("%s still stands in %s; place it elsewhere first: %w", card.Machines[0].Name, r.Name, bench.ErrConflict)
			}
		}
		r.Version, r.RetiredMS = version, quantity.Ptr(w.NowMS())
		if _, err := task.Put(w.Base, t, roomEntry, r); err != nil {
			return have, err
		}
		return w.rooms(t)
	})
}

// Placing is where a machine stands, since when, and whether it was carried there: a machine that was
// carried has moved, and is to be levelled.
type Placing struct {
	RoomID  string `json:"room_id" minLength:"1"`
	AtMS    int64  `json:"at_ms" required:"false"`
	Carried bool   `json:"carried" required:"false"`
	// AllAlong says that it stood there before too, also for prints that are recorded later of days before.
	AllAlong bool `json:"all_along" required:"false"`
}

// elsewhere is from where a machine came of which nobody knows where it stood before.
const elsewhere = "elsewhere"

// Place ties the knot that says in which room a machine stands.
func (w *Tasks) Place(ctx context.Context, machineID string, p Placing) (Rooms, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (Rooms, error) {
		r, err := t.Workroom(p.RoomID)
		if err != nil {
			return Rooms{}, err
		}
		if r.RetiredMS != nil {
			return Rooms{}, quantity.Errorf("room_id", "names %s, which is not in use any more", r.Name)
		}
		kinds := bench.IDs{machine.Stands}
		e, err := newExpecter(t)
		if err != nil {
			return Rooms{}, err
		}
		p.AtMS = cmp.Or(p.AtMS, w.NowMS())
		from := cmp.Or(e.roomOf(machineID, p.AtMS), elsewhere)
		if p.AllAlong {
			from = ""
		} else if p.Carried {
			kinds = append(kinds, machine.Move)
		}
		knot := bench.MachineEvent{MachineID: machineID, AtMS: p.AtMS, Kinds: kinds, Changes: bench.Changes{{What: machine.RoomName, From: from, To: r.Name}}}
		if _, err := w.kit.AddEventIn(t, knot); err != nil {
			return Rooms{}, err
		}
		return w.rooms(t)
	})
}

// ExpectedOf is what a print that begins on a machine at an instant is expected to be made in.
func ExpectedOf(t *store.Tx, machineID string, atMS int64) (Expectation, error) {
	e, err := newExpecter(t)
	if err != nil {
		return Expectation{}, err
	}
	room := e.roomOf(machineID, atMS)
	if room == "" {
		return Expectation{}, nil
	}
	return e.in(t, room, atMS)
}

// expecter knows where machines stood.
type expecter struct {
	machines  []bench.Machine
	rooms     map[string]bench.Workroom // by their names in small letters
	histories map[string]machine.History
}

func newExpecter(t *store.Tx) (e expecter, err error) {
	if e.machines, err = t.Machines(); err != nil {
		return e, err
	}
	rooms, err := t.Workrooms()
	if err != nil {
		return e, err
	}
	e.rooms, e.histories = task.ByID(rooms, func(r bench.Workroom) string { return strings.ToLower(r.Name) }), map[string]machine.History{}
	for _, m := range e.machines {
		events, err := t.EventsOfMachine(m.ID)
		if err != nil {
			return e, err
		}
		e.histories[m.ID] = machine.New(kit.KnotsOf(events), nil)
	}
	return e, nil
}

// roomOf is the room in which a machine stood; a knot that was typed may name it in other capitals.
func (e expecter) roomOf(machineID string, atMS int64) string {
	name := strings.TrimSpace(e.histories[machineID].FittedAt(atMS).Room)
	if r, known := e.rooms[strings.ToLower(name)]; known {
		return r.Name
	}
	return name
}

// in is what a room is expected to be like, with where that is known from.
func (e expecter) in(t *store.Tx, room string, atMS int64) (Expectation, error) {
	out := Expectation{Room: room}
	read, err := t.RoomReadingsBetween(atMS-machine.FreshRoomMS, atMS)
	if err != nil {
		return out, err
	}
	var there []machine.RoomReading
	at := ""
	for _, r := range read { // the last first
		if e.roomOf(r.MachineID, r.AtMS) != room || r.Note == bench.TypedForWhole {
			continue
		}
		there = append(there, r.Read())
		if at == "" && (r.RoomTempC != nil || r.HumidityPct != nil || r.HeaterOn != nil) {
			at = r.RunCode
		}
	}
	usual := e.rooms[strings.ToLower(room)]
	out.Expected = machine.ExpectedAt(atMS, there, machine.Air{RoomTempC: usual.RoomTempC, HumidityPct: usual.HumidityPct, HeaterOn: usual.HeaterOn})
	if out.ReadMS != nil {
		out.ReadAt = at
	}
	return out, nil
}

// Expected is what a print on a machine is expected to be made in at an instant, now where that is 0.
func (w *Tasks) Expected(ctx context.Context, machineID string, atMS int64) (out Expectation, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		if _, err := t.Machine(machineID); err != nil {
			return err
		}
		out, err = ExpectedOf(t, machineID, cmp.Or(atMS, w.NowMS()))
		return err
	})
	return out, err
}
