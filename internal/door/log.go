package door

import (
	"bufio"
	"encoding/json"
	"errors"
	"io/fs"
	"log/slog"
	"os"
	"slices"
	"sync"
	"time"
)

// What happened at the door.
const (
	Entered   = "entered"
	Ended     = "ended"
	Refused   = "refused"
	Throttled = "throttled"
	Used      = "used" // something that needs the passphrase again: a token, an import, an export
)

// Event is a line of the log: never a secret, only what it was about.
type Event struct {
	AtMS   int64  `json:"at_ms"`
	What   string `json:"what" enum:"entered,ended,refused,throttled,used"`
	From   string `json:"from"`
	Who    string `json:"who"`
	Detail string `json:"detail"`
}

// Bounds of the log: a file that is full is kept beside the new one, once.
const (
	logBytes   = 1 << 20
	logShown   = 300
	detailMost = 200
)

// Log is appended to, a line an event.
type Log struct {
	file string
	now  func() time.Time
	mu   sync.Mutex
	// told is when an event that happens all the time was noted last.
	told map[Event]time.Time
}

// mostTold bounds what is remembered of events that happen all the time.
const mostTold = 1000

// NoteHourly is Note for what happens all the time: the same event is noted once an hour.
func (l *Log) NoteHourly(e Event) {
	l.mu.Lock()
	at := l.now()
	last, known := l.told[e]
	if fresh := known && at.Sub(last) < time.Hour; fresh {
		l.mu.Unlock()
		return
	}
	if l.told == nil || len(l.told) >= mostTold {
		l.told = map[Event]time.Time{}
	}
	l.told[e] = at
	l.mu.Unlock()
	l.Note(e)
}

// Note appends an event. A log that cannot be written is said aloud, and stops nobody.
func (l *Log) Note(e Event) {
	l.mu.Lock()
	defer l.mu.Unlock()
	e.AtMS = l.now().UnixMilli()
	if r := []rune(e.Detail); len(r) > detailMost {
		e.Detail = string(r[:detailMost])
	}
	if err := l.append(e); err != nil {
		slog.Error("the log of the door cannot be written", "cause", err)
	}
}

func (l *Log) append(e Event) error {
	line, err := json.Marshal(e)
	if err != nil {
		return err
	}
	if info, err := os.Stat(l.file); err == nil && info.Size() > logBytes {
		if err := os.Rename(l.file, l.file+".1"); err != nil {
			return err
		}
	}
	file, err := os.OpenFile(l.file, os.O_APPEND|os.O_CREATE|os.O_WRONLY, fileMode)
	if err != nil {
		return err
	}
	_, err = file.Write(append(line, '\n'))
	return errors.Join(err, file.Close())
}

// Last are the last events, the newest first.
func (l *Log) Last() ([]Event, error) {
	l.mu.Lock()
	defer l.mu.Unlock()
	out := []Event{}
	for _, name := range []string{l.file + ".1", l.file} {
		file, err := os.Open(name)
		if errors.Is(err, fs.ErrNotExist) {
			continue
		}
		if err != nil {
			return nil, err
		}
		lines := bufio.NewScanner(file)
		for lines.Scan() {
			var e Event
			if json.Unmarshal(lines.Bytes(), &e) == nil { // a line that was cut off by a crash says nothing
				out = append(out, e)
			}
		}
		if err := errors.Join(lines.Err(), file.Close()); err != nil {
			return nil, err
		}
	}
	slices.Reverse(out)
	return out[:min(len(out), logShown)], nil
}
