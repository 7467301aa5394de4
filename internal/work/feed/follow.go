package feed

import (
	"fmt"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/say"
	"ojime/internal/work/task"
)

// follow moves the machine's print to what its newest word says.
func (in *intake) follow(m bench.DeviceMessage, lagMS int64, said string, out *Received) error {
	r, state, err := openRun(in.t, *in.device.MachineID)
	if task.IsMissing(err) {
		return nil // it prints something that is not on record
	}
	if err != nil {
		return err
	}
	feed, err := in.t.FeedOfRun(r.ID)
	if err != nil && !task.IsMissing(err) {
		return err
	}
	before := feed
	feed.RunID, feed.DeviceID, feed.Session, feed.Seq, feed.AtMS, feed.State = r.ID, in.device.ID, m.Session, m.Seq, m.AtMS+lagMS, m.State
	if m.Layer != nil && (feed.Layer == nil || *feed.Layer != *m.Layer) {
		feed.Layer, feed.LayerAtMS = m.Layer, quantity.Ptr(m.AtMS+lagMS)
	}
	if m.Unit == "layers" && m.Value != nil && *m.Value >= 1 {
		feed.Layers = quantity.Ptr(int64(*m.Value))
	}
	if err := in.t.SaveRunFeed(feed); err != nil {
		return err
	}
	kind := turn(state, said, m.State)
	if kind == "start" && in.device.StandIn {
		if r.SpeedUp, err = speedOf(m); err != nil {
			return err
		}
		if err := in.t.SaveRun(r); err != nil {
			return err
		}
	}
	if kind != "" {
		if err := in.happen(r, kind, m, lagMS, out); err != nil {
			return err
		}
	}
	if said := before.Layers; feed.Layers == nil || (said != nil && *said == *feed.Layers && kind != "start") {
		return nil
	}
	return in.miscount(r.ID, feed, out)
}

// tell notes what a printer says happened to its print: resin that it poured in by
// itself, or words.
func (in *intake) tell(m bench.DeviceMessage, lagMS int64, out *Received) error {
	r, state, err := openRun(in.t, *in.device.MachineID)
	if task.IsMissing(err) || (err == nil && state == bench.Prepared) {
		return nil
	}
	if err != nil {
		return err
	}
	return in.happen(r, m.Kind, m, lagMS, out)
}

// turn is the event that leads from where the record has a print to what the
// machine says, empty for none. Only a change of its word counts: one that has not
// heard yet of a pause or of going on at the bench undoes neither, and one that goes
// on printing what was ended at the bench does not start the next.
func turn(state, saidBefore, says string) string {
	on := state == bench.Printing || state == bench.Paused
	switch {
	case state == bench.Prepared && says == "printing" && saidBefore != "printing" && saidBefore != "paused":
		return "start"
	case state == bench.Printing && says == "paused" && saidBefore != "paused":
		return "pause"
	case state == bench.Paused && says == "printing" && saidBefore == "paused":
		return "resume"
	case on && says == "finished":
		return "finish"
	case on && says == "stopped":
		return "stop"
	case on && (says == "fault" || says == "idle") && saidBefore != says:
		return "note" // idle in the middle: the word of its end may be lost
	}
	return ""
}

// speedOf reads how many times faster than time a stand-in prints from its note,
// "speed 60"; 1 where it says none: what it takes is never a measurement.
func speedOf(m bench.DeviceMessage) (*float64, error) {
	var speed float64
	if n, err := fmt.Sscanf(m.Note, "speed %g", &speed); err != nil || n != 1 {
		return quantity.Ptr(1.0), nil // a note that says no speed is no error
	}
	if speed <= 0 {
		return nil, quantity.Errorf("note", "says speed %s; a speed is above 0", say.Figures(speed, 6))
	}
	return &speed, nil
}

func (in *intake) happen(r bench.Run, kind string, m bench.DeviceMessage, lagMS int64, out *Received) error {
	events, err := in.t.EventsOfRun(r.ID)
	if err != nil {
		return err
	}
	note := "by " + in.device.Name
	if kind == "note" && m.Kind == "state" {
		note += ", which says " + m.State
	}
	if m.Note != "" {
		note += ": " + m.Note
	}
	e := bench.RunEvent{RunID: r.ID, AtMS: m.AtMS + lagMS, Kind: kind, Note: note, CreatedMS: in.w.NowMS()}
	if kind == "top_up" {
		e.ML = m.Value
	}
	if n := len(events); n > 0 {
		e.AtMS = max(e.AtMS, events[n-1].AtMS)
	}
	out.Changed = true
	return in.w.Printing.Append(in.t, r, events, e)
}

// miscount notes that the machine counts other layers than the plan.
func (in *intake) miscount(runID string, feed bench.RunFeed, out *Received) error {
	r, err := in.t.Run(runID)
	if err != nil {
		return err
	}
	events, err := in.t.EventsOfRun(runID)
	if err != nil {
		return err
	}
	state := bench.StateOf(r, events)
	if *feed.Layers == r.Layers || (state != bench.Printing && state != bench.Paused) {
		return nil
	}
	out.Changed = true
	return in.w.Printing.Append(in.t, r, events, bench.RunEvent{RunID: runID, AtMS: max(feed.AtMS, events[len(events)-1].AtMS), Kind: "note", CreatedMS: in.w.NowMS(),
		Note: fmt.Sprintf("by %s: it counts %d layers, the plan %d; is it the right file?", in.device.Name, *feed.Layers, r.Layers)})
}
