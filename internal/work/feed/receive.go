package feed

import (
	"context"
	"errors"
	"fmt"
	"math"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work/task"
)

// Received answers a device: what came in, and where its machine's print stands
// on record, so that a pause at the bench reaches the machine.
type Received struct {
	New     int64 `json:"new"`
	Doubled int64 `json:"doubled"`
	// SetAside counts messages that make no sense and were not kept; SetAsideWhy
	// says what is wrong with the last of them.
	SetAside    int64  `json:"set_aside"`
	SetAsideWhy string `json:"set_aside_why"`
	Lost        int64  `json:"lost"`
	State       string `json:"state"`
	RunCode     string `json:"run_code"`

	// Changed says that the record of a print changed; Readings are those that
	// open pages may take over.
	Changed  bool              `json:"-"`
	Readings []ReadingReceived `json:"-"`
}

// ReadingReceived is a reading on its way to the field that waits for it.
type ReadingReceived struct {
	Code  string  `json:"code"`
	Name  string  `json:"name"`
	Kind  string  `json:"kind"`
	Value float64 `json:"value"`
	Unit  string  `json:"unit"`
	// StandIn says that nothing was measured.
	StandIn bool `json:"stand_in"`
}

// Receive takes messages of one device: all are kept, each once, however often
// and in whatever order they come. Only the newest word of a printer moves its
// print.
func (w *Tasks) Receive(ctx context.Context, token string, messages []bench.DeviceMessage) (out Received, err error) {
	err = w.Store.WriteQuietly(ctx, func(t *store.Tx) error {
		out = Received{}
		d, err := authorised(t, token)
		if err != nil {
			return err
		}
		in := intake{w: w, t: t, device: d, sessions: map[string]*bench.DeviceSession{}}
		for i, m := range messages {
			if err := in.takeOrSetAside(m, &out); err != nil {
				return fmt.Errorf("message %d: %w", i+1, err)
			}
		}
		if out.SetAside > 0 {
			if err := t.SetMessagesAside(d.ID, out.SetAside, out.SetAsideWhy); err != nil {
				return err
			}
		}
		for _, s := range in.sessions {
			if err := t.SaveDeviceSession(*s); err != nil {
				return err
			}
			out.Lost += s.Lost()
		}
		return in.where(&out)
	})
	if out.Changed {
		w.Store.Changed()
	}
	return out, err
}

// takeOrSetAside takes a message in. One that makes no sense is undone, counted and
// told of; the others are kept.
func (in *intake) takeOrSetAside(m bench.DeviceMessage, out *Received) error {
	err := checkMessage(in.device, m)
	if err == nil {
		before, sessions := *out, in.copied()
		err = in.t.Try(func() error { return in.take(m, out) })
		if err != nil {
			*out, in.sessions = before, sessions
		}
	}
	var wrong *quantity.FieldError
	if !errors.As(err, &wrong) {
		return err
	}
	out.SetAside, out.SetAsideWhy = out.SetAside+1, wrong.Error()
	return nil
}

// copied are the sessions as they stand now.
func (in *intake) copied() map[string]*bench.DeviceSession {
	out := map[string]*bench.DeviceSession{}
	for name, s := range in.sessions {
		out[name] = quantity.Ptr(*s)
	}
	return out
}

// Bounds of what a message may hold.
const (
	LongestNote    = 300
	longestSession = 60
	mostSeq        = 1_000_000_000
)

func checkMessage(d bench.Device, m bench.DeviceMessage) error {
	var c quantity.Checks
	if m.Session == "" || len(m.Session) > longestSession {
		c.Fail("session", "is %d characters long; name each start of the device in up to %d", len(m.Session), longestSession)
	}
	c.CountAbove("seq", m.Seq)
	if m.AtMS <= 0 {
		c.Fail("at_ms", "is missing; send the device's own time in milliseconds")
	}
	if m.AtMS > quantity.LatestMS {
		c.Fail("at_ms", "lies beyond the year 2099; send the device's own time in milliseconds")
	}
	if m.Seq > mostSeq {
		c.Fail("seq", "is beyond %d; count from 1 within a session", mostSeq)
	}
	if m.Value != nil && math.Abs(*m.Value) > quantity.RangeOf("value").High {
		c.Fail("value", "is too large to be a reading")
	}
	if m.Layer != nil && *m.Layer > mostSeq {
		c.Fail("layer", "is too large to be a layer")
	}
	if len(m.Note) > LongestNote {
		c.Fail("note", "has %d characters; up to %d are kept", len(m.Note), LongestNote)
	}
	switch m.Kind {
	case "reading":
		if m.Value == nil {
			c.Fail("value", "is missing; a reading has a value")
		} else {
			c.Number("value", *m.Value)
		}
		c.OneOf("unit", m.Unit, bench.DeviceUnits[d.Kind]...)
	case "state":
		if d.Kind != "printer" {
			c.Fail("kind", "is state; only a printer tells its state")
		}
		c.OneOf("state", m.State, "idle", "printing", "paused", "finished", "stopped", "fault")
		if m.Layer != nil {
			c.CountNotBelow("layer", *m.Layer)
		}
	case "top_up", "note":
		if d.Kind != "printer" {
			c.Fail("kind", "is %s; only a printer tells of its print", m.Kind)
		}
		if m.Kind == "top_up" {
			c.Above("value", quantity.Or(m.Value, 0))
			c.OneOf("unit", m.Unit, "ml")
		} else if m.Note == "" {
			c.Fail("note", "is missing; say what happened")
		}
	default:
		c.Fail("kind", "is %q; send reading, state, top_up or note", m.Kind)
	}
	return c.Err()
}

// intake is one transaction of messages.
type intake struct {
	w        *Tasks
	t        *store.Tx
	device   bench.Device
	sessions map[string]*bench.DeviceSession
}

func (in *intake) session(name string) (*bench.DeviceSession, error) {
	if s, known := in.sessions[name]; known {
		return s, nil
	}
	s, err := in.t.DeviceSession(in.device.ID, name)
	if task.IsMissing(err) {
		s = bench.DeviceSession{DeviceID: in.device.ID, Session: name}
		err = in.t.SaveDeviceSession(s) // messages refer to it
	}
	in.sessions[name] = &s
	return &s, err
}

func (in *intake) take(m bench.DeviceMessage, out *Received) error {
	s, err := in.session(m.Session)
	if err != nil {
		return err
	}
	m.DeviceID, m.ReceivedMS = in.device.ID, in.w.NowMS()
	isNew, err := in.t.SaveDeviceMessage(m)
	if err != nil {
		return err
	}
	newest := s.Count(m, isNew)
	if !isNew {
		out.Doubled++
		return nil
	}
	out.New++
	switch {
	case m.Kind == "state" && newest:
		said := s.LastState
		s.LastState = m.State
		return in.follow(m, s.LagMS, said, out)
	case m.Kind == "top_up" || m.Kind == "note":
		return in.tell(m, s.LagMS, out) // also when it comes late: it happened
	case m.Kind == "reading" && (m.Unit == "c" || m.Unit == "pct") && newest:
		if err := in.warm(m, out); err != nil {
			return err
		}
	}
	if m.Kind == "reading" && in.device.Kind != "printer" {
		out.Readings = append(out.Readings, ReadingReceived{in.device.Code, in.device.Name, in.device.Kind, *m.Value, m.Unit, in.device.StandIn})
	}
	return nil
}

func (in *intake) feedTemperature(runID string, c float64) error {
	feed, err := in.t.FeedOfRun(runID)
	if task.IsMissing(err) {
		return nil
	}
	if err != nil {
		return err
	}
	feed.ResinTempC = &c
	return in.t.SaveRunFeed(feed)
}

// where says where the machine's print stands.
func (in *intake) where(out *Received) error {
	if in.device.MachineID == nil || in.device.Kind != "printer" {
		return nil
	}
	r, state, err := openRun(in.t, *in.device.MachineID)
	if task.IsMissing(err) {
		out.State = "idle"
		return nil
	}
	out.State, out.RunCode = state, r.Code
	return err
}
