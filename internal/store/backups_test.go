package store

import (
	"os"
	"path/filepath"
	"slices"
	"testing"
	"time"
)

func TestAsManyBackupsAreKeptAsWished(t *testing.T) {
	s, _ := withMesh(t, t.TempDir())
	dir := filepath.Join(t.TempDir(), "safe", "there")
	now := time.Date(2026, 3, 1, 12, 0, 0, 0, time.FixedZone("here", 3600))
	if _, err := Backups(dir); err == nil {
		t.Error("a folder that is not there was read")
	}
	for i := range 4 {
		file, err := s.BackupInto(t.Context(), dir, 2, now.Add(time.Duration(i)*time.Hour))
		if err != nil {
			t.Fatal(err)
		}
		if i == 0 {
			for _, own := range []string{"notes.txt", "ojime-20260101.zip", "ojime-99999999-999999.zip"} {
				if err := os.WriteFile(filepath.Join(dir, own), []byte("mine"), 0o600); err != nil {
					t.Fatal(err)
				}
			}
		}
		if err := CheckBackup(t.Context(), file, t.TempDir()); err != nil {
			t.Error(err)
		}
	}
	all, err := Backups(dir)
	if err != nil || len(all) != 2 || all[0].Name != "ojime-20260301-140000.zip" || all[1].Name != "ojime-20260301-130000.zip" || all[0].Bytes == 0 || !all[0].At.Equal(now.Add(3*time.Hour)) {
		t.Errorf("%+v, %v", all, err)
	}
	entries, err := os.ReadDir(dir)
	if err != nil || len(entries) != 5 {
		t.Errorf("%v, %v: what is somebody's own stays, and nothing else is left behind", entries, err)
	}
	// Of one instant there is one; what is there is not written over, and nothing is removed for it.
	if _, err := s.BackupInto(t.Context(), dir, 1, now.Add(3*time.Hour)); err == nil {
		t.Error("written over another")
	}
	// Fewer than one is one: the newest always stays.
	if _, err := s.BackupInto(t.Context(), dir, 0, now.Add(9*time.Hour)); err != nil {
		t.Error(err)
	}
	if all, err = Backups(dir); err != nil || len(all) != 1 || all[0].Name != "ojime-20260301-200000.zip" {
		t.Errorf("%+v, %v", all, err)
	}
	// With the clock back an hour the new one is kept beside the one from ahead of it.
	if file, err := s.BackupInto(t.Context(), dir, 1, now.Add(8*time.Hour)); err != nil || filepath.Base(file) != "ojime-20260301-190000.zip" {
		t.Errorf("%s, %v", file, err)
	}
	if all, err = Backups(dir); err != nil || len(all) != 2 {
		t.Errorf("%+v, %v", all, err)
	}
}

func TestABackupThatIsDamagedDoesNotPass(t *testing.T) {
	s, hash := withMesh(t, t.TempDir())
	dir := t.TempDir()
	good, err := s.BackupInto(t.Context(), dir, 3, time.Unix(1e9, 0))
	if err != nil {
		t.Fatal(err)
	}
	// A mesh that is not what its name says any more.
	mesh := filepath.Join(s.dir, meshFolder, hash)
	if err := os.Remove(mesh); err != nil {
		t.Fatal(err)
	}
	if err := os.WriteFile(mesh, []byte("rotten"), 0o600); err != nil {
		t.Fatal(err)
	}
	if file, err := s.BackupInto(t.Context(), dir, 1, time.Unix(1e9+60, 0)); err == nil {
		t.Errorf("%s passed", file)
	}
	all, err := Backups(dir)
	if err != nil || len(all) != 1 || all[0].Name != filepath.Base(good) {
		t.Errorf("what did not pass is gone and the good one stays: %+v, %v", all, err)
	}
	data, err := os.ReadFile(good)
	if err != nil {
		t.Fatal(err)
	}
	for _, cut := range []int{0, 100, len(data) / 2, len(data) - 1} {
		short := filepath.Join(t.TempDir(), "cut.zip")
		if err := os.WriteFile(short, slices.Clone(data[:cut]), 0o600); err != nil {
			t.Fatal(err)
		}
		if CheckBackup(t.Context(), short, t.TempDir()) == nil {
			t.Errorf("the first %d of %d bytes passed", cut, len(data))
		}
	}
}
