// Package door keeps others out of a record that is served to a network: the passphrase as a hash, the sessions
// of those who are in, codes that bring a phone in, and a log of who came and what was refused. It knows nothing
// of the record; its files lie in a folder of their own beside it and are in no backup and no export.
package door

import (
	"context"
	"crypto/rand"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"sync"
	"time"
	"unicode/utf8"
)

// Scopes of those who are in. A device and a judge come with tokens of their own, and get no session.
const (
	Owner  = "owner"  // everything
	Helper = "helper" // sees the bench and enters what is seen and read; no settings, no tokens, no exports
)

// How long a session lasts: so long unused, and so long in all.
const (
	idleOwner   = 12 * time.Hour
	idleHelper  = 7 * 24 * time.Hour
	longest     = 30 * 24 * time.Hour
	confirmedIs = 10 * time.Minute
	mostInside  = 100
)

// Bounds of a passphrase, in characters, and how many of them must differ.
const (
	leastPassphrase  = 12
	mostPassphrase   = 200
	leastDifferent   = 5
	sessionBytes     = 32
	folderMode       = 0o700
	fileMode         = 0o600
	stateFile        = "door.json"
	codeLasts        = 5 * time.Minute
	codeDigits       = 8
	mostCodesAtOnce  = 5
	longestNameRunes = 60
)

// What callers branch on.
var (
	// ErrWrong says that a passphrase or code is not the right one.
	ErrWrong = errors.New("that is not it")
	// ErrThrottled says that too many wrong ones came.
	ErrThrottled = errors.New("too many wrong ones; wait a minute")
	// ErrNoSession says that a session is not there, or over.
	ErrNoSession = errors.New("no such session")
)

// Session is somebody who is in.
type Session struct {
	ID          string `json:"id"`
	TokenSHA256 string `json:"token_sha256"`
	Scope       string `json:"scope"`
	Name        string `json:"name"`
	From        string `json:"from"`
	CreatedMS   int64  `json:"created_ms"`
	SeenMS      int64  `json:"seen_ms"`
	ConfirmedMS int64  `json:"confirmed_ms"`
}

type state struct {
	Passphrase string    `json:"passphrase"`
	ChangedMS  int64     `json:"changed_ms"`
	Sessions   []Session `json:"sessions"`
}

// Door is the door of one record.
type Door struct {
	dir    string
	now    func() time.Time
	random io.Reader
	Log    *Log
	tries  *tries

	memory  uint32     // of a new hash, in KiB
	hashing sync.Mutex // one at a time: each takes that much
	mu      sync.Mutex
	state   state
	codes   map[string]time.Time // by their hash, until when
}

// Open reads the door of a record's folder.
func Open(dir string, now func() time.Time) (*Door, error) {
	d := &Door{dir: filepath.Join(dir, "door"), now: now, random: rand.Reader, memory: memoryKiB, tries: newTries(now), codes: map[string]time.Time{}}
	if err := os.MkdirAll(d.dir, folderMode); err != nil {
		return nil, fmt.Errorf("make the folder of the door: %w", err)
	}
	d.Log = &Log{file: filepath.Join(d.dir, "access.log"), now: now}
	data, err := os.ReadFile(filepath.Join(d.dir, stateFile))
	if errors.Is(err, fs.ErrNotExist) {
		return d, nil
	}
	if err != nil {
		return nil, fmt.Errorf("read the door: %w", err)
	}
	if err := json.Unmarshal(data, &d.state); err != nil {
		return nil, fmt.Errorf("read the door, %s: %w; take the file away and set a passphrase anew", filepath.Join(d.dir, stateFile), err)
	}
	return d, nil
}

// Set reports that a passphrase is set.
func (d *Door) Set() bool {
	d.mu.Lock()
	defer d.mu.Unlock()
	return d.state.Passphrase != ""
}

// CheckPassphrase says what is wrong with a passphrase that is to be set.
func CheckPassphrase(text string) error {
	n := utf8.RuneCountInString(text)
	different := map[rune]bool{}
	for _, r := range text {
		different[r] = true
	}
	switch {
	case !utf8.ValidString(text):
		return errors.New("passphrase: cannot be read as text")
	case n < leastPassphrase:
		return fmt.Errorf("passphrase: has %d characters; write %d or more, such as four words", n, leastPassphrase)
	case n > mostPassphrase:
		return fmt.Errorf("passphrase: has %d characters; write %d at most", n, mostPassphrase)
	case len(different) < leastDifferent:
		return fmt.Errorf("passphrase: has %d different characters; write %d or more, such as four words", len(different), leastDifferent)
	}
	return nil
}

// SetPassphrase sets the passphrase, and ends every session.
func (d *Door) SetPassphrase(text string) error {
	if err := CheckPassphrase(text); err != nil {
		return err
	}
	hash, err := d.hash(text)
	if err != nil {
		return err
	}
	return d.change(func(s *state) error {
		*s = state{Passphrase: hash, ChangedMS: d.now().UnixMilli()}
		return nil
	})
}

// change changes the state and writes it before it holds.
func (d *Door) change(f func(*state) error) error {
	d.mu.Lock()
	defer d.mu.Unlock()
	next := d.state
	next.Sessions = slices.Clone(d.state.Sessions)
	if err := f(&next); err != nil {
		return err
	}
	if err := d.write(next); err != nil {
		return err
	}
	d.state = next
	return nil
}

func (d *Door) write(s state) error {
	data, err := json.MarshalIndent(s, "", "  ")
	if err != nil {
		return fmt.Errorf("write the door: %w", err)
	}
	file, err := os.CreateTemp(d.dir, stateFile+".*")
	if err != nil {
		return fmt.Errorf("write the door: %w", err)
	}
	_, err = file.Write(data)
	err = errors.Join(err, file.Chmod(fileMode), file.Sync(), file.Close())
	if err == nil {
		err = os.Rename(file.Name(), filepath.Join(d.dir, stateFile))
	}
	if err != nil {
		_ = os.Remove(file.Name()) // what is left of it
		return fmt.Errorf("write the door: %w", err)
	}
	return nil
}

// Enter lets in who knows the passphrase, as owner, and gives the token of the session.
func (d *Door) Enter(_ context.Context, passphrase, name, from string) (token string, s Session, err error) {
	if err := d.knows(passphrase, from); err != nil {
		return "", s, err
	}
	return d.begin(Owner, name, from)
}

// knows holds a passphrase against the one that is set.
func (d *Door) knows(passphrase, from string) error {
	if d.tries.closed(from) {
		d.Log.Note(Event{What: Throttled, From: from})
		return ErrThrottled
	}
	d.mu.Lock()
	hash := d.state.Passphrase
	d.mu.Unlock()
	if utf8.RuneCountInString(passphrase) > mostPassphrase || !d.matches(hash, passphrase) {
		d.tries.miss(from)
		d.Log.Note(Event{What: Refused, From: from, Detail: "wrong passphrase"})
		return ErrWrong
	}
	return nil
}

func (d *Door) begin(scope, name, from string) (token string, s Session, err error) {
	raw := make([]byte, sessionBytes)
	if _, err := io.ReadFull(d.random, raw); err != nil {
		return "", s, fmt.Errorf("draw a session: %w", err)
	}
	token = hex.EncodeToString(raw)
	if name = strings.TrimSpace(name); name == "" {
		name = scope
	}
	if r := []rune(name); len(r) > longestNameRunes {
		name = string(r[:longestNameRunes])
	}
	at := d.now().UnixMilli()
	s = Session{ID: hashed(token)[:12], TokenSHA256: hashed(token), Scope: scope, Name: name, From: from, CreatedMS: at, SeenMS: at}
	if scope == Owner {
		s.ConfirmedMS = at
	}
	err = d.change(func(all *state) error {
		all.Sessions = append(slices.DeleteFunc(all.Sessions, d.over), s)
		if len(all.Sessions) > mostInside {
			all.Sessions = all.Sessions[1:]
		}
		return nil
	})
	if err == nil {
		d.Log.Note(Event{What: Entered, From: from, Who: name, Detail: scope})
	}
	return token, s, err
}

func hashed(token string) string {
	sum := sha256.Sum256([]byte(token))
	return hex.EncodeToString(sum[:])
}

// over reports a session that has ended by itself.
func (d *Door) over(s Session) bool {
	idle := idleOwner
	if s.Scope == Helper {
		idle = idleHelper
	}
	at := d.now()
	return at.Sub(time.UnixMilli(s.SeenMS)) > idle || at.Sub(time.UnixMilli(s.CreatedMS)) > longest
}

// Session is the session of a token, which counts as seen now.
func (d *Door) Session(token string) (Session, error) {
	if token == "" {
		return Session{}, ErrNoSession
	}
	is := hashed(token)
	d.mu.Lock()
	defer d.mu.Unlock()
	for i := range d.state.Sessions {
		s := &d.state.Sessions[i]
		if s.TokenSHA256 != is || d.over(*s) {
			continue
		}
		s.SeenMS = d.now().UnixMilli() // written with the next change: a little less is kept over a restart
		return *s, nil
	}
	return Session{}, ErrNoSession
}

// Alive reports that a session is not over, without counting it as seen.
func (d *Door) Alive(id string) bool {
	return slices.ContainsFunc(d.Sessions(), func(s Session) bool { return s.ID == id })
}

// Confirmed reports that the passphrase was entered again a short while ago.
func (d *Door) Confirmed(s Session) bool {
	return s.Scope == Owner && d.now().Sub(time.UnixMilli(s.ConfirmedMS)) < confirmedIs
}

// Confirm takes the passphrase again, before something that needs it.
func (d *Door) Confirm(id, passphrase, from string) error {
	if err := d.knows(passphrase, from); err != nil {
		return err
	}
	return d.change(func(all *state) error {
		for i := range all.Sessions {
			if all.Sessions[i].ID == id {
				all.Sessions[i].ConfirmedMS = d.now().UnixMilli()
				return nil
			}
		}
		return ErrNoSession
	})
}

// Sessions are those who are in, the last seen first.
func (d *Door) Sessions() []Session {
	d.mu.Lock()
	defer d.mu.Unlock()
	out := slices.DeleteFunc(slices.Clone(d.state.Sessions), d.over)
	slices.SortStableFunc(out, func(a, b Session) int { return int(b.SeenMS - a.SeenMS) })
	return out
}

// End ends one session.
func (d *Door) End(id, from string) error {
	var ended Session
	err := d.change(func(all *state) error {
		at := slices.IndexFunc(all.Sessions, func(s Session) bool { return s.ID == id })
		if at < 0 {
			return ErrNoSession
		}
		ended = all.Sessions[at]
		all.Sessions = slices.Delete(all.Sessions, at, at+1)
		return nil
	})
	if err == nil {
		d.Log.Note(Event{What: Ended, From: from, Who: ended.Name})
	}
	return err
}

// EndAll ends every session, everywhere.
func (d *Door) EndAll(from string) error {
	err := d.change(func(all *state) error {
		all.Sessions = nil
		return nil
	})
	if err == nil {
		d.Log.Note(Event{What: Ended, From: from, Detail: "all sessions"})
	}
	return err
}
