package store

import (
	"archive/zip"
	"context"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"ojime/internal/bench"
)

const meshText = "solid"

// withMesh is a record of a piece with its mesh file.
func withMesh(t *testing.T, dir string) (*Store, string) {
	t.Helper()
	s := open(t, dir)
	sum := sha256.Sum256([]byte(meshText))
	hash := hex.EncodeToString(sum[:])
	if err := s.Meshes().Save(hash, []byte(meshText)); err != nil {
		t.Fatal(err)
	}
	err := s.Write(t.Context(), func(tx *Tx) error {
		return tx.SavePiece(bench.Piece{ID: "p", Code: "P1", Version: 1, Name: "Wedge", MeshSHA256: hash, Triangles: 4, MeshWarnings: bench.Notes{}})
	})
	if err != nil {
		t.Fatal(err)
	}
	return s, hash
}

func TestABackupIsRestoredWhole(t *testing.T) {
	s, hash := withMesh(t, t.TempDir())
	file := filepath.Join(t.TempDir(), "copy.zip")
	if err := s.Backup(t.Context(), file); err != nil {
		t.Fatal(err)
	}
	if info, err := os.Stat(file); err != nil || info.Mode().Perm() != 0o600 {
		t.Errorf("backup %v (%v), want 0600", info.Mode(), err)
	}
	if left, _ := filepath.Glob(filepath.Join(filepath.Dir(file), ".ojime-backup-*")); len(left) > 0 {
		t.Errorf("left behind: %v", left)
	}
	if err := s.Backup(t.Context(), file); err == nil {
		t.Error("a backup was written over another")
	}
	dir := filepath.Join(t.TempDir(), "new")
	if err := Restore(t.Context(), file, dir); err != nil {
		t.Fatal(err)
	}
	again := open(t, dir)
	if data, err := again.Meshes().Read(hash); err != nil || string(data) != meshText {
		t.Errorf("mesh %q (%v)", data, err)
	}
	if err := again.Read(t.Context(), func(tx *Tx) error { _, err := tx.Piece("p"); return err }); err != nil {
		t.Error(err)
	}
	if err := Restore(t.Context(), file, dir); err == nil {
		t.Error("a backup was restored over a record")
	}
}

// Whatever is wrong with a backup is found before anything is put in place.
func TestABrokenBackupIsRefused(t *testing.T) {
	s, hash := withMesh(t, t.TempDir())
	whole := filepath.Join(t.TempDir(), "whole.zip")
	if err := s.Backup(t.Context(), whole); err != nil {
		t.Fatal(err)
	}
	data, err := os.ReadFile(whole)
	if err != nil {
		t.Fatal(err)
	}
	for name, broken := range map[string][]byte{
		"empty": {}, "cut off": data[:len(data)/2], "no zip": []byte("hello"),
		"no database":   zipOf(t, map[string]string{"meshes/" + hash: meshText}),
		"empty base":    zipOf(t, map[string]string{"ojime.db": ""}),
		"another base":  zipOf(t, map[string]string{"ojime.db": "not a database at all"}),
		"another mesh":  zipOf(t, map[string]string{"ojime.db": database(t, whole), "meshes/" + hash: "changed"}),
		"climbing part": zipOf(t, map[string]string{"ojime.db": database(t, whole), "../outside": "x"}),
	} {
		file, dir := filepath.Join(t.TempDir(), "b.zip"), t.TempDir()
		if err := os.WriteFile(file, broken, 0o600); err != nil {
			t.Fatal(err)
		}
		if err := Restore(t.Context(), file, dir); err == nil {
			t.Errorf("%s: restored", name)
		}
		if _, err := os.Stat(filepath.Join(dir, fileName)); err == nil {
			t.Errorf("%s: a record was put in place", name)
		}
	}
}

func zipOf(t *testing.T, parts map[string]string) []byte {
	t.Helper()
	var out strings.Builder
	z := zip.NewWriter(&out)
	for name, text := range parts {
		w, err := z.Create(name)
		if err == nil {
			_, err = w.Write([]byte(text))
		}
		if err != nil {
			t.Fatal(err)
		}
	}
	if err := z.Close(); err != nil {
		t.Fatal(err)
	}
	return []byte(out.String())
}

// database is the database of a backup.
func database(t *testing.T, file string) string {
	t.Helper()
	z, err := zip.OpenReader(file)
	if err != nil {
		t.Fatal(err)
	}
	defer func() { _ = z.Close() }()
	target := filepath.Join(t.TempDir(), "part")
	if _, err := takeOut(z.File[0], target); err != nil {
		t.Fatal(err)
	}
	text, err := os.ReadFile(target)
	if err != nil {
		t.Fatal(err)
	}
	return string(text)
}

func TestOneProcessAFolder(t *testing.T) {
	dir := t.TempDir()
	open(t, dir)
	if _, err := Open(t.Context(), dir); err == nil || !strings.Contains(err.Error(), "another ojime works on") {
		t.Errorf("a second one: %v", err)
	}
}

// Files of a record that others could read are closed to them when it is opened.
func TestARecordIsItsOwnersAlone(t *testing.T) {
	dir := t.TempDir()
	s, hash := withMesh(t, dir)
	if err := s.Close(); err != nil {
		t.Fatal(err)
	}
	for path, mode := range map[string]os.FileMode{dir: 0o755, filepath.Join(dir, fileName): 0o644, filepath.Join(dir, "meshes", hash): 0o644} {
		if err := os.Chmod(path, mode); err != nil {
			t.Fatal(err)
		}
	}
	open(t, dir)
	err := filepath.WalkDir(dir, func(path string, d os.DirEntry, err error) error {
		if err != nil {
			return err
		}
		info, err := d.Info()
		if err == nil && info.Mode().Perm()&0o077 != 0 {
			t.Errorf("%s is %v", path, info.Mode())
		}
		return err
	})
	if err != nil {
		t.Error(err)
	}
}

func TestLookingChangesNothing(t *testing.T) {
	if _, err := Look(t.Context(), t.TempDir()); !errors.Is(err, ErrNoRecord) {
		t.Errorf("an empty folder: %v", err)
	}
	dir := t.TempDir()
	s, _ := withMesh(t, dir)
	look, err := Look(t.Context(), dir) // beside the one that writes
	if err != nil {
		t.Fatal(err)
	}
	if err := look.Read(t.Context(), func(tx *Tx) error { _, err := tx.Piece("p"); return err }); err != nil {
		t.Error(err)
	}
	for _, write := range []func(context.Context, func(*Tx) error) error{look.Write, look.WriteQuietly} {
		if err := write(t.Context(), func(*Tx) error { return nil }); !errors.Is(err, bench.ErrReadOnly) {
			t.Errorf("a write: %v", err)
		}
	}
	if wrong, err := look.Check(t.Context()); err != nil || len(wrong) > 0 {
		t.Errorf("check: %v, %v", wrong, err)
	}
	if err := errors.Join(look.Close(), s.Close()); err != nil {
		t.Error(err)
	}
}

func TestOrphansAreCleared(t *testing.T) {
	dir := t.TempDir()
	s, hash := withMesh(t, dir)
	for _, name := range []string{"ojime-tmp/multipart-1", "meshes/incoming-1", "meshes/mine.stl"} {
		if err := os.WriteFile(filepath.Join(dir, name), []byte("x"), 0o600); err != nil {
			t.Fatal(err)
		}
	}
	if err := s.Tidy(); err != nil {
		t.Fatal(err)
	}
	files, err := s.Meshes().Names()
	if temp, _ := os.ReadDir(s.TempDir()); err != nil || fmt.Sprint(files) != "["+hash+"]" || len(temp) > 0 {
		t.Errorf("meshes %v, temporary %v (%v)", files, temp, err)
	}
	if _, err := os.Stat(filepath.Join(dir, "meshes", "mine.stl")); err != nil {
		t.Errorf("a file that is somebody's own: %v", err)
	}
}

// What lies in the folder besides the record is neither cleared nor closed to others.
func TestForeignFilesAreLeftAlone(t *testing.T) {
	dir := t.TempDir()
	for _, name := range []string{"tmp/kept", "notes.txt", "photos/one.png"} {
		path := filepath.Join(dir, name)
		if err := errors.Join(os.MkdirAll(filepath.Dir(path), 0o755), os.WriteFile(path, []byte("x"), 0o644)); err != nil {
			t.Fatal(err)
		}
	}
	if err := open(t, dir).Tidy(); err != nil {
		t.Fatal(err)
	}
	for _, name := range []string{"tmp/kept", "notes.txt", "photos/one.png"} {
		if info, err := os.Stat(filepath.Join(dir, name)); err != nil || info.Mode().Perm() != 0o644 {
			t.Errorf("%s: %v (%v)", name, info, err)
		}
	}
}

// A part of a transaction that fails is undone; the rest of it is kept.
func TestAPartIsUndoneByItself(t *testing.T) {
	s := open(t, t.TempDir())
	failed := errors.New("failed")
	err := s.Write(t.Context(), func(tx *Tx) error {
		good := bench.Instrument{ID: "a", Code: "I1", Version: 1, Name: "Caliper", Kind: "caliper"}
		bad := bench.Instrument{ID: "b", Code: "I2", Version: 1, Name: "Lost", Kind: "caliper"}
		if err := tx.Try(func() error { return tx.SaveInstrument(good) }); err != nil {
			return err
		}
		if err := tx.Try(func() error { return errors.Join(tx.SaveInstrument(bad), failed) }); !errors.Is(err, failed) {
			return fmt.Errorf("got %w", err)
		}
		return nil
	})
	if err != nil {
		t.Fatal(err)
	}
	err = s.Read(t.Context(), func(tx *Tx) error {
		list, err := tx.Instruments()
		if len(list) != 1 || list[0].ID != "a" {
			t.Errorf("%+v", list)
		}
		return err
	})
	if err != nil {
		t.Error(err)
	}
}
