package record

import (
	"context"
	"errors"
	"io/fs"
	"log/slog"
	"path/filepath"
	"sync"
	"time"

	"ojime/internal/store"
)

// Schedule says into which folder backups are written by themselves, how often, and how many are kept.
type Schedule struct {
	Dir   string
	Every time.Duration
	Keep  int
}

// Safekeeping is how the record is kept safe: the folder of backups, empty where none are written by
// themselves, how often and how many; those there are, the newest first; when the next is due, and what was
// wrong with the last, empty where nothing was.
type Safekeeping struct {
	Folder  string       `json:"folder"`
	EveryH  float64      `json:"every_h"`
	Keep    int64        `json:"keep"`
	Backups []KeptBackup `json:"backups"`
	NextMS  *int64       `json:"next_ms"`
	Failed  string       `json:"failed"`
}

// KeptBackup is a backup that passed its check.
type KeptBackup struct {
	Name  string `json:"name"`
	AtMS  int64  `json:"at_ms"`
	Bytes int64  `json:"bytes"`
}

// safekeeper is what is known of the schedule while it runs.
type safekeeper struct {
	mu       sync.Mutex
	schedule Schedule
	next     time.Time
	failed   error
}

// soonAgain is when a backup that failed is tried again, where it is not due before.
const soonAgain = 10 * time.Minute

// DueAt is when a backup is due: at once where there is none, else as long after the newest as the
// schedule says. One from ahead of the clock, which was put back, does not count.
func DueAt(now time.Time, there []store.BackupFile, every time.Duration) time.Time {
	for _, b := range there {
		if !b.At.After(now) {
			return b.At.Add(every)
		}
	}
	return now
}

// KeepSafe writes backups by a schedule until it is stopped. What goes wrong is logged, shown, and tried
// again.
func (w *Tasks) KeepSafe(ctx context.Context, s Schedule, wait func(context.Context, time.Duration) error) {
	for {
		now := time.UnixMilli(w.NowMS())
		there, err := store.Backups(s.Dir)
		if errors.Is(err, fs.ErrNotExist) {
			err = nil
		}
		due := DueAt(now, there, s.Every)
		if err == nil && !due.After(now) {
			if _, err = w.Store.BackupInto(ctx, s.Dir, s.Keep, now); err == nil {
				due = now.Add(s.Every)
			}
		}
		if err != nil {
			slog.ErrorContext(ctx, "no backup was made", "folder", s.Dir, "cause", err.Error())
			due = now.Add(min(soonAgain, s.Every))
		}
		w.safe.tell(s, due, err)
		if wait(ctx, due.Sub(now)) != nil {
			return
		}
	}
}

func (k *safekeeper) tell(s Schedule, next time.Time, failed error) {
	k.mu.Lock()
	defer k.mu.Unlock()
	k.schedule, k.next, k.failed = s, next, failed
}

// Safekeeping is how the record is kept safe now.
func (w *Tasks) Safekeeping(context.Context) (Safekeeping, error) {
	w.safe.mu.Lock()
	s, next, failed := w.safe.schedule, w.safe.next, w.safe.failed
	w.safe.mu.Unlock()
	out := Safekeeping{Backups: []KeptBackup{}}
	if s.Dir == "" {
		return out, nil
	}
	ms := next.UnixMilli()
	out.Folder, out.EveryH, out.Keep, out.NextMS = filepath.Base(s.Dir), s.Every.Hours(), int64(s.Keep), &ms
	if failed != nil {
		out.Failed = failed.Error()
	}
	there, err := store.Backups(s.Dir)
	if err != nil && !errors.Is(err, fs.ErrNotExist) && out.Failed == "" {
		out.Failed = err.Error() // the folder went since
	}
	for _, b := range there {
		out.Backups = append(out.Backups, KeptBackup{b.Name, b.At.UnixMilli(), b.Bytes})
	}
	return out, nil
}
