package store

import (
	"fmt"

	"ojime/internal/bench"
	"ojime/internal/store/db"
)

// Devices and what they sent.

// Device reads one device, or bench.ErrNotFound.
func (t *Tx) Device(id string) (bench.Device, error) {
	row, err := t.q.DeviceByID(t.ctx, id)
	return bench.Device(row), read("device", id, err)
}

// DeviceByToken reads the device that a token's hash belongs to.
func (t *Tx) DeviceByToken(sha256 string) (bench.Device, error) {
	row, err := t.q.DeviceByToken(t.ctx, sha256)
	return bench.Device(row), read("device of this token", "", err)
}

// SaveDevice writes a device.
func (t *Tx) SaveDevice(v bench.Device) error {
	return saved("device", t.q.SaveDevice(t.ctx, db.SaveDeviceParams(v)))
}

// SetMessagesAside counts messages of a device that made no sense.
func (t *Tx) SetMessagesAside(deviceID string, count int64, why string) error {
	return saved("device", t.q.SetMessagesAside(t.ctx, db.SetMessagesAsideParams{SetAside: count, SetAsideWhy: why, ID: deviceID}))
}

// Devices lists every device in its order.
func (t *Tx) Devices() ([]bench.Device, error) {
	rows, err := t.q.Devices(t.ctx)
	return list("device", rows, err, func(r db.Device) bench.Device { return bench.Device(r) })
}

// DeviceSession reads the counts of a session, or bench.ErrNotFound.
func (t *Tx) DeviceSession(deviceID, session string) (bench.DeviceSession, error) {
	row, err := t.q.DeviceSessionByKey(t.ctx, db.DeviceSessionByKeyParams{DeviceID: deviceID, Session: session})
	return bench.DeviceSession(row), read("session", session, err)
}

// SaveDeviceSession writes the counts of a session.
func (t *Tx) SaveDeviceSession(v bench.DeviceSession) error {
	return saved("device session", t.q.SaveDeviceSession(t.ctx, db.SaveDeviceSessionParams(v)))
}

// SessionsOfDevice lists the last sessions of a device, the newest first.
func (t *Tx) SessionsOfDevice(deviceID string) ([]bench.DeviceSession, error) {
	rows, err := t.q.SessionsOfDevice(t.ctx, deviceID)
	return list("sessions of device", rows, err, func(r db.DeviceSession) bench.DeviceSession { return bench.DeviceSession(r) })
}

// SaveDeviceMessage appends a message and reports whether it is new.
func (t *Tx) SaveDeviceMessage(v bench.DeviceMessage) (isNew bool, err error) {
	n, err := t.q.SaveDeviceMessage(t.ctx, db.SaveDeviceMessageParams(v))
	if err != nil {
		return false, fmt.Errorf("save message %d of %s: %w", v.Seq, v.DeviceID, err)
	}
	return n == 1, nil
}

// MessagesOfDevice lists the last messages of a device, the newest first.
func (t *Tx) MessagesOfDevice(deviceID string, most int64) ([]bench.DeviceMessage, error) {
	rows, err := t.q.MessagesOfDevice(t.ctx, db.MessagesOfDeviceParams{DeviceID: deviceID, Limit: most})
	return list("messages of device", rows, err, func(r db.DeviceMessage) bench.DeviceMessage { return bench.DeviceMessage(r) })
}

// FeedOfRun reads where a machine says that its print is, or bench.ErrNotFound.
func (t *Tx) FeedOfRun(runID string) (bench.RunFeed, error) {
	row, err := t.q.FeedOfRun(t.ctx, runID)
	return bench.RunFeed(row), read("feed of run", runID, err)
}

// SaveRunFeed writes where a machine says that its print is.
func (t *Tx) SaveRunFeed(v bench.RunFeed) error {
	return saved("run feed", t.q.SaveRunFeed(t.ctx, db.SaveRunFeedParams(v)))
}

// RunsInSession counts the prints that a machine fed since it was switched on, up
// to a message of the session.
func (t *Tx) RunsInSession(deviceID, session string, beforeSeq int64) (int64, error) {
	n, err := t.q.RunsInSession(t.ctx, db.RunsInSessionParams{DeviceID: deviceID, Session: session, Seq: beforeSeq})
	return n, read("prints of session", session, err)
}

// DeviceSessions lists the sessions of every device.
func (t *Tx) DeviceSessions() ([]bench.DeviceSession, error) {
	rows, err := t.q.DeviceSessions(t.ctx)
	return list("device session", rows, err, func(r db.DeviceSession) bench.DeviceSession { return bench.DeviceSession(r) })
}

// DeviceMessagesAfter lists up to most messages that come after one, by device,
// session and number; the zero message comes before all.
func (t *Tx) DeviceMessagesAfter(last bench.DeviceMessage, most int64) ([]bench.DeviceMessage, error) {
	rows, err := t.q.DeviceMessages(t.ctx, db.DeviceMessagesParams{DeviceID: last.DeviceID, Session: last.Session, Seq: last.Seq, Most: most})
	return list("device message", rows, err, func(r db.DeviceMessage) bench.DeviceMessage { return bench.DeviceMessage(r) })
}

// RunFeeds lists where machines said last that their prints are.
func (t *Tx) RunFeeds() ([]bench.RunFeed, error) {
	rows, err := t.q.RunFeeds(t.ctx)
	return list("run feed", rows, err, func(r db.RunFeed) bench.RunFeed { return bench.RunFeed(r) })
}
