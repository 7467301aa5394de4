package work_test

import (
	"context"
	"errors"
	"os"
	"path/filepath"
	"testing"
	"time"

	"ojime/internal/store"
	"ojime/internal/work/record"
)

func TestABackupIsDueAfterTheNewest(t *testing.T) {
	now := time.Date(2026, 9, 1, 9, 0, 0, 0, time.UTC)
	ago := func(hours ...int) (out []store.BackupFile) {
		for _, h := range hours {
			out = append(out, store.BackupFile{At: now.Add(-time.Duration(h) * time.Hour)})
		}
		return out
	}
	for name, c := range map[string]struct {
		there []store.BackupFile
		want  time.Time
	}{
		"none yet":                    {nil, now},
		"one of five hours ago":       {ago(5, 30), now.Add(19 * time.Hour)},
		"one of long ago":             {ago(30), now.Add(-6 * time.Hour)},
		"one from ahead of the clock": {ago(-1, 2), now.Add(22 * time.Hour)},
		"only from ahead of it":       {ago(-1), now},
		"one of this instant":         {ago(0), now.Add(24 * time.Hour)},
	} {
		if got := record.DueAt(now, c.there, 24*time.Hour); !got.Equal(c.want) {
			t.Errorf("%s: due %v, want %v", name, got, c.want)
		}
	}
}

func TestBackupsAreWrittenByThemselves(t *testing.T) {
	d := newDesk(t)
	ctx := t.Context()
	if s := must(d.w.Record.Safekeeping(ctx))(t); s.Folder != "" || s.NextMS != nil || s.Backups == nil {
		t.Errorf("none is asked for: %+v", s)
	}
	dir := filepath.Join(t.TempDir(), "safe")
	var waits []time.Duration
	// The clock moves on by what is waited for; on the way the folder cannot be written once.
	wait := func(_ context.Context, w time.Duration) error {
		waits = append(waits, w)
		s := must(d.w.Record.Safekeeping(ctx))(t)
		switch len(waits) {
		case 1:
			if len(s.Backups) != 1 || s.Folder != "safe" || s.EveryH != 6 || s.Keep != 2 || s.Failed != "" || *s.NextMS != d.clock.Add(6*time.Hour).UnixMilli() {
				t.Errorf("after the first: %+v", s)
			}
		case 3:
			if err := os.RemoveAll(dir); err != nil {
				t.Fatal(err)
			}
			if err := os.WriteFile(dir, []byte("in the way"), 0o600); err != nil {
				t.Fatal(err)
			}
		case 4:
			if s.Failed == "" {
				t.Error("nothing says that no backup was made")
			}
			if err := os.Remove(dir); err != nil {
				t.Fatal(err)
			}
		case 5:
			if s.Failed != "" || len(s.Backups) != 1 {
				t.Errorf("made good: %+v", s)
			}
			return errors.New("stopped")
		}
		d.clock = d.clock.Add(w)
		return nil
	}
	d.w.Record.KeepSafe(ctx, record.Schedule{Dir: dir, Every: 6 * time.Hour, Keep: 2}, wait)
	want := []time.Duration{6 * time.Hour, 6 * time.Hour, 6 * time.Hour, 10 * time.Minute, 6 * time.Hour}
	for i, w := range want {
		if i >= len(waits) || waits[i] != w {
			t.Fatalf("waited %v, want %v", waits, want)
		}
	}
}
