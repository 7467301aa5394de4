package side

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/say"
	"ojime/internal/store"
	"ojime/internal/work/kit"
	"ojime/internal/work/task"
)

// Changes reads what changed on machines, once for all pairs of sides.
type Changes struct {
	names    map[string]string
	eventsOf func(machineID string) ([]bench.MachineEvent, error)
	threadOf func(machineID string) ([]store.ThreadAt, error)
}

// ChangesOf reads them from the first to the last of all prints compared.
func ChangesOf(t *store.Tx, sides []Prints) (c Changes, err error) {
	first, last := Span(sides...)
	c.eventsOf = task.Memoise(t.EventsOfMachine)
	c.threadOf = task.Memoise(func(machineID string) ([]store.ThreadAt, error) { return t.ThreadOf(machineID, first, last) })
	c.names, err = kit.ResinNames(t)
	return c, err
}

// KnotsBetween lists what changed a machine of either side between the first
// and the last of all runs compared.
func (c Changes) KnotsBetween(a, b Prints) ([]string, error) {
	first, last := Span(a, b)
	machines := map[string]string{a.Machine.ID: a.Machine.Name, b.Machine.ID: b.Machine.Name}
	out := []string{}
	for _, id := range slices.Sorted(maps.Keys(machines)) {
		events, err := c.eventsOf(id)
		if err != nil {
			return nil, err
		}
		for _, e := range events {
			if e.AtMS >= first && e.AtMS <= last && e.RetiredMS == nil && !e.Knot().Tells() {
				out = append(out, strings.TrimSuffix(fmt.Sprintf("%s: %s, %s", machines[id], e.Words(), e.Note), ", "))
			}
		}
	}
	return out, nil
}

// ThreadsBetween lists where a machine of either side changed its resin between
// the first and the last of all runs compared: a vat keeps traces.
func (c Changes) ThreadsBetween(a, b Prints) ([]string, error) {
	first, last := Span(a, b)
	names := c.names
	sides := []Prints{a, b}
	if a.Machine.ID == b.Machine.ID {
		sides = sides[:1]
	}
	out := []string{}
	for _, s := range sides {
		beads, err := c.threadOf(s.Machine.ID)
		if err != nil {
			return nil, err
		}
		before, changes := "", 0
		var left string         // by the last change
		var with store.ThreadAt // it was made
		for _, bead := range beads {
			if bead.StartedMS < first || bead.StartedMS > last {
				continue
			}
			if before != "" && bead.ResinID != before {
				changes, left, with = changes+1, before, bead
			}
			before = bead.ResinID
		}
		if changes == 0 {
			continue
		}
		words := fmt.Sprintf("%s went from %s to %s with %s", s.Machine.Name, names[left], names[with.ResinID], with.Code)
		if changes > 1 {
			words = fmt.Sprintf("%s changed its resin %s; the last: %s", s.Machine.Name, say.Counted(int64(changes), "time"), words)
		}
		out = append(out, words)
	}
	return out, nil
}
