package bench

import "ojime/internal/core/quantity"

// RunEvent is something that happened to a print: appended, never changed. ML is
// what a top-up added; Layer is where a dial was changed, or how far a stopped print
// got. An undo takes the end before it back: a key that was pressed by mistake.
type RunEvent struct {
	ID        string   `json:"id" required:"false" readOnly:"true"`
	RunID     string   `json:"run_id" required:"false" readOnly:"true"`
	AtMS      int64    `json:"at_ms"`
	Kind      string   `json:"kind" enum:"start,pause,resume,top_up,note,dial,stop,finish,undo"`
	ML        *float64 `json:"ml" required:"false" exclusiveMinimum:"0"`
	Note      string   `json:"note"`
	CreatedMS int64    `json:"created_ms" required:"false" readOnly:"true"`
	Position  int64    `json:"position" required:"false" readOnly:"true"`
	Layer     *int64   `json:"layer" required:"false" minimum:"0"`
}

// Preflight is an answer to one item before a print; the last one counts.
type Preflight struct {
	ID    string `json:"id" required:"false" readOnly:"true"`
	RunID string `json:"run_id" required:"false" readOnly:"true"`
	Item  string `json:"item" minLength:"1"`
	State string `json:"state" enum:"ticked,skipped"`
	AtMS  int64  `json:"at_ms" required:"false" readOnly:"true"`
	// Reason says why an item was skipped.
	Reason string `json:"reason" required:"false"`
}

// Remedy is what was tried against a symptom for a cause. CameBack is nil while
// nobody knows.
type Remedy struct {
	ID       string `json:"id" required:"false"`
	RunID    string `json:"run_id" required:"false" readOnly:"true"`
	Symptom  string `json:"symptom" minLength:"1"`
	Cause    string `json:"cause" minLength:"1"`
	Note     string `json:"note"`
	CameBack *bool  `json:"came_back" required:"false"`
	AtMS     int64  `json:"at_ms" required:"false" readOnly:"true"`
}

// States of a run, in their order. A run that was entered after the fact is
// recorded: it has no events.
const (
	Recorded = "recorded"
	Prepared = "prepared"
	Printing = "printing"
	Paused   = "paused"
	Stopped  = "stopped"
	Finished = "finished"
)

// Believed are the events that count: an undo takes the end before it back, and both
// stay on record.
func Believed(events []RunEvent) []RunEvent {
	out := make([]RunEvent, 0, len(events))
	for _, e := range events {
		if e.Kind != "undo" {
			out = append(out, e)
			continue
		}
		for i := len(out) - 1; i >= 0; i-- {
			if out[i].Kind == "stop" || out[i].Kind == "finish" {
				out = append(out[:i], out[i+1:]...)
				break
			}
		}
	}
	return out
}

// StateOf is where a run stands, by its events in order.
func StateOf(r Run, events []RunEvent) string {
	if r.PreparedMS == nil || (len(events) == 0 && r.EndedMS != nil) { // completed afterwards
		return Recorded
	}
	state := Prepared
	for _, e := range Believed(events) {
		switch e.Kind {
		case "start", "resume":
			state = Printing
		case "pause":
			state = Paused
		case "stop":
			state = Stopped
		case "finish":
			state = Finished
		}
	}
	return state
}

// follows says which events may come in which state.
var follows = map[string][]string{
	Prepared: {"start", "note"},
	Printing: {"pause", "top_up", "note", "dial", "stop", "finish"},
	Paused:   {"resume", "top_up", "note", "dial", "stop", "finish"},
	Stopped:  {"note", "undo"},
	Finished: {"note", "undo"},
}

// MayFollow refuses an event that cannot come now, such as a pause of a print
// that was not started. Its instant may lie before what happened last: clocks go
// back, and a print must not be locked by that.
func MayFollow(r Run, events []RunEvent, e RunEvent) error {
	state := StateOf(r, events)
	allowed := false
	for _, kind := range follows[state] {
		allowed = allowed || kind == e.Kind
	}
	if !allowed {
		return quantity.Errorf("kind", "%s cannot come now: %s is %s", e.Kind, r.Code, state)
	}
	if e.Kind == "top_up" && e.ML == nil {
		return quantity.Errorf("ml", "is missing; say how much was poured in")
	}
	if e.Kind == "dial" && e.Note == "" {
		return quantity.Errorf("note", "is missing; say what was changed, such as exposure 2.4 s")
	}
	return nil
}

// Follow gives an event its place after the others and says whether the clock
// went back between the last one and it.
func (e *RunEvent) Follow(events []RunEvent) (clockWentBack bool) {
	e.Position = 1
	if len(events) == 0 {
		return false
	}
	last := events[len(events)-1]
	e.Position = last.Position + 1
	return e.AtMS < last.AtMS
}

// RunningMS is how long a run printed until an instant, pauses left out. Where
// the clock went back it is a lower bound.
func RunningMS(events []RunEvent, nowMS int64) (running int64) {
	since, on := int64(0), false
	for _, e := range Believed(events) {
		switch e.Kind {
		case "start", "resume":
			since, on = e.AtMS, true
		case "pause", "stop", "finish":
			if on {
				running += max(0, e.AtMS-since)
			}
			on = false
		}
	}
	if on {
		running += max(0, nowMS-since)
	}
	return running
}

// Check says what makes no sense about an answer.
func (p Preflight) Check() error {
	if p.Item == "" {
		return quantity.Errorf("item", "is missing; name the item that is answered")
	}
	if p.State != "ticked" && p.State != "skipped" {
		return quantity.Errorf("state", "is %q; it is ticked or skipped", p.State)
	}
	return nil
}

// PausedMS is how long a run paused, by its events in order.
func PausedMS(events []RunEvent) (paused int64) {
	since, on := int64(0), false
	for _, e := range Believed(events) {
		switch e.Kind {
		case "pause":
			since, on = e.AtMS, true
		case "resume", "stop", "finish":
			if on {
				paused += max(0, e.AtMS-since)
			}
			on = false
		}
	}
	return paused
}
