package feed

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"io"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work/planning"
	"ojime/internal/work/task"
)

// ErrNoDevice says that a token belongs to no device that may send.
var ErrNoDevice = errors.New("no device has this token")

// DeviceCard is a device with what came in from it last.
type DeviceCard struct {
	Device   bench.Device          `json:"device"`
	Machine  string                `json:"machine"`
	Sessions []SessionCard         `json:"sessions"`
	Last     []bench.DeviceMessage `json:"last"`
	// SilentS is for how long nothing came in, nil where nothing ever did.
	SilentS *float64 `json:"silent_s"`
}

// SessionCard is a session with the messages of it that are missing.
type SessionCard struct {
	bench.DeviceSession
	Lost int64 `json:"lost"`
}

// DeviceMade is a new device with its token, which is shown this once.
type DeviceMade struct {
	Device bench.Device `json:"device"`
	Token  string       `json:"token"`
}

var deviceEntry = task.Entry[bench.Device]{Table: "device",
	Head: func(d *bench.Device) task.Head {
		return task.Head{ID: &d.ID, Code: &d.Code, Version: &d.Version, CreatedMS: &d.CreatedMS}
	},
	Get: (*store.Tx).Device, Put: (*store.Tx).SaveDevice}

// shownMessages is how many of a device's last messages a page shows.
const shownMessages = 12

// Devices lists the devices.
func (w *Tasks) Devices(ctx context.Context) ([]DeviceCard, error) {
	return task.ReadList(ctx, w.Base, func(t *store.Tx) ([]DeviceCard, error) {
		devices, err := t.Devices()
		if err != nil {
			return nil, err
		}
		out, machine := []DeviceCard{}, task.Memoise(t.Machine)
		for _, d := range devices {
			card, err := w.deviceCard(t, d, machine)
			if err != nil {
				return nil, err
			}
			out = append(out, card)
		}
		return out, nil
	})
}

func (w *Tasks) deviceCard(t *store.Tx, d bench.Device, machine func(string) (bench.Machine, error)) (DeviceCard, error) {
	out := DeviceCard{Device: d, Sessions: []SessionCard{}}
	if d.MachineID != nil {
		m, err := machine(*d.MachineID)
		if err != nil {
			return out, err
		}
		out.Machine = m.Name
	}
	sessions, err := t.SessionsOfDevice(d.ID)
	if err != nil {
		return out, err
	}
	for _, s := range sessions {
		out.Sessions = append(out.Sessions, SessionCard{s, s.Lost()})
	}
	if len(sessions) > 0 {
		out.SilentS = quantity.Ptr(float64(w.NowMS()-sessions[0].LastMS) / 1000)
	}
	out.Last, err = t.MessagesOfDevice(d.ID, shownMessages)
	return out, err
}

// tokenBytes make a token that nobody guesses.
const tokenBytes = 20

// NewToken makes a token and the hash that is kept of it.
func (w *Tasks) NewToken() (token, hash string, err error) {
	raw := make([]byte, tokenBytes)
	if _, err := io.ReadFull(w.Random, raw); err != nil {
		return "", "", fmt.Errorf("draw a token: %w", err)
	}
	token = hex.EncodeToString(raw)
	return token, hashToken(token), nil
}

func hashToken(token string) string {
	sum := sha256.Sum256([]byte(token))
	return hex.EncodeToString(sum[:])
}

// MakeDevice records a device and gives its token.
func (w *Tasks) MakeDevice(ctx context.Context, d bench.Device) (DeviceMade, error) {
	if err := d.Check(); err != nil {
		return DeviceMade{}, err
	}
	token, hash, err := w.NewToken()
	if err != nil {
		return DeviceMade{}, err
	}
	d.ID, d.TokenSHA256, d.RetiredMS = "", hash, nil
	return task.Keep(ctx, w.Base, func(t *store.Tx) (DeviceMade, error) {
		d, err := task.Put(w.Base, t, deviceEntry, d)
		return DeviceMade{d, token}, err
	})
}

// RetireDevice ends what a device may send; RenewToken gives it a new token and
// lets it send again.
func (w *Tasks) RetireDevice(ctx context.Context, id string) (out bench.Device, err error) {
	err = w.Write(ctx, &out, func(t *store.Tx) error {
		if out, err = t.Device(id); err != nil {
			return err
		}
		out.RetiredMS, out.Version = quantity.Ptr(w.NowMS()), out.Version+1
		return t.SaveDevice(out)
	})
	return out, err
}

// RenewToken replaces a device's token; the old one is void at once.
func (w *Tasks) RenewToken(ctx context.Context, id string) (DeviceMade, error) {
	token, hash, err := w.NewToken()
	if err != nil {
		return DeviceMade{}, err
	}
	out := DeviceMade{Token: token}
	err = w.Write(ctx, &out, func(t *store.Tx) error {
		if out.Device, err = t.Device(id); err != nil {
			return err
		}
		out.Device.TokenSHA256, out.Device.RetiredMS, out.Device.Version = hash, nil, out.Device.Version+1
		return t.SaveDevice(out.Device)
	})
	return out, err
}

// Job is what a printer is to print next, or prints now.
type Job struct {
	RunID  string    `json:"run_id"`
	Code   string    `json:"code"`
	State  string    `json:"state"`
	LayerS []float64 `json:"layer_s"`
	StartS float64   `json:"start_s"`
	EndS   float64   `json:"end_s"`
}

// Job reads what a printer's machine has on hand: the run that prints, else the
// oldest that is prepared. bench.ErrNotFound says that there is none.
func (w *Tasks) Job(ctx context.Context, token string) (out Job, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		d, err := authorised(t, token)
		if err != nil {
			return err
		}
		if d.MachineID == nil {
			return quantity.Errorf("device", "%s speaks for no machine, so it has no print", d.Code)
		}
		r, state, err := openRun(t, *d.MachineID)
		if err != nil {
			return err
		}
		m, err := t.Machine(r.MachineID)
		if err != nil {
			return err
		}
		p, err := t.Profile(r.ProfileID)
		if err != nil {
			return err
		}
		loads, err := planning.RunLoads(t, r.ID)
		if err != nil {
			return err
		}
		e, _, err := w.Planning.Estimate(t, m, p, loads)
		if err != nil {
			return err
		}
		out = Job{RunID: r.ID, Code: r.Code, State: state, LayerS: e.EachLayerS, StartS: m.StartS, EndS: m.EndS}
		if len(out.LayerS) == 0 {
			return fmt.Errorf("%s has no time per layer (%s): %w", r.Code, e.Reason, bench.ErrConflict)
		}
		return nil
	})
	return out, err
}

func authorised(t *store.Tx, token string) (bench.Device, error) {
	d, err := t.DeviceByToken(hashToken(token))
	if task.IsMissing(err) || (err == nil && d.RetiredMS != nil) {
		return d, ErrNoDevice
	}
	return d, err
}

// openRun is the run of a machine that prints or is paused, else the oldest that
// is prepared.
func openRun(t *store.Tx, machineID string) (bench.Run, string, error) {
	runs, err := t.OpenRuns()
	if err != nil {
		return bench.Run{}, "", err
	}
	var waiting *bench.Run
	for _, r := range runs {
		if r.MachineID != machineID {
			continue
		}
		events, err := t.EventsOfRun(r.ID)
		if err != nil {
			return r, "", err
		}
		state := bench.StateOf(r, events)
		if state == bench.Printing || state == bench.Paused {
			return r, state, nil
		}
		if waiting == nil && state == bench.Prepared {
			waiting = &r
		}
	}
	if waiting == nil {
		return bench.Run{}, "", fmt.Errorf("a prepared print on this machine: %w", bench.ErrNotFound)
	}
	return *waiting, bench.Prepared, nil
}

// ToldOnce keeps the token out of what is remembered.
func (DeviceMade) ToldOnce() {}
