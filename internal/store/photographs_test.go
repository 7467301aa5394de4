package store

import (
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"path/filepath"
	"testing"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
)

func hashOf(text string) string {
	sum := sha256.Sum256([]byte(text))
	return hex.EncodeToString(sum[:])
}

// photographed puts a photograph of a reference on record, with its three files.
func photographed(t *testing.T, s *Store) bench.Photograph {
	t.Helper()
	p := bench.Photograph{ID: "h", Code: "H-001", CreatedMS: 5, ReferenceID: quantity.Ptr("f"), Copy: quantity.Ptr(int64(1)), Station: "loupe", Magnification: quantity.Ptr(5.0), Stage: "raw", Light: "a lamp",
		Kind: "png", FileBytes: 8, OriginalSHA256: hashOf("original"), CopySHA256: hashOf("copy"), SmallSHA256: hashOf("small"), WidthPX: 40, HeightPX: 30, CopyWidthPX: 40, CopyHeightPX: 30, Blur: 0.25}
	for _, text := range []string{"original", "copy", "small"} {
		if err := s.Photographs().Save(hashOf(text), []byte(text)); err != nil {
			t.Fatal(err)
		}
	}
	if err := s.Write(t.Context(), func(tx *Tx) error {
		return errors.Join(tx.SaveReference(bench.Reference{ID: "f", Code: "F1", Version: 1, Name: "Pewter", PieceID: "p", MadeBy: "casting", Provenance: "a mould", Copies: 1}),
			tx.SavePhotograph(p),
			tx.SavePhotoMeasure(bench.PhotoMeasure{ID: "m", PhotographID: "h", Kind: "scale", ToXPX: 40, KnownMM: quantity.Ptr(4.0), KnownUMM: quantity.Ptr(0.0), SizePX: 40, UPX: 1.4, N: 1}))
	}); err != nil {
		t.Fatal(err)
	}
	return p
}

// A backup holds the originals too, and what is restored is what was there.
func TestABackupHoldsPhotographs(t *testing.T) {
	s, _ := withMesh(t, t.TempDir())
	want := photographed(t, s)
	file := filepath.Join(t.TempDir(), "copy.zip")
	if err := s.Backup(t.Context(), file); err != nil {
		t.Fatal(err)
	}
	dir := filepath.Join(t.TempDir(), "new")
	if err := Restore(t.Context(), file, dir); err != nil {
		t.Fatal(err)
	}
	again := open(t, dir)
	for _, text := range []string{"original", "copy", "small"} {
		if data, err := again.Photographs().Read(hashOf(text)); err != nil || string(data) != text {
			t.Errorf("%s: %q %v", text, data, err)
		}
	}
	err := again.Read(t.Context(), func(tx *Tx) error {
		got, err := tx.PhotographsOfReference("f")
		if err != nil || len(got) != 1 || got[0].OriginalSHA256 != want.OriginalSHA256 || *got[0].Magnification != 5 {
			t.Errorf("%+v %v", got, err)
		}
		measures, err := tx.MeasuresOf([]string{"h"})
		if len(measures) != 1 || *measures[0].KnownMM != 4 {
			t.Errorf("%+v", measures)
		}
		return err
	})
	if err != nil {
		t.Error(err)
	}
	if names, err := again.Photographs().Names(); err != nil || len(names) != 3 {
		t.Errorf("%v %v", names, err)
	}
}

// What must never be is refused by the record itself: a photograph of two things or of none,
// of a station without its power, erased and yet shown, or a scale without its length.
func TestTheRecordRefusesWhatNoPhotographCanBe(t *testing.T) {
	s, _ := withMesh(t, t.TempDir())
	good := photographed(t, s)
	for name, spoil := range map[string]func(*bench.Photograph){
		"of nothing":               func(p *bench.Photograph) { p.ReferenceID, p.Copy = nil, nil },
		"of no copy":               func(p *bench.Photograph) { p.Copy = nil },
		"under no power":           func(p *bench.Photograph) { p.Magnification = nil },
		"in hand, and magnified":   func(p *bench.Photograph) { p.Station = "in_hand" },
		"of a kind that is none":   func(p *bench.Photograph) { p.Kind = "gif" },
		"of nobody's reference":    func(p *bench.Photograph) { p.ReferenceID = quantity.Ptr("nobody") },
		"erased and not taken off": func(p *bench.Photograph) { p.ErasedMS = quantity.Ptr(int64(9)) },
		"more blurred than can be": func(p *bench.Photograph) { p.Blur = 1.5 },
	} {
		p := good
		p.ID, p.Code = "other", "H-002"
		spoil(&p)
		if err := s.Write(t.Context(), func(tx *Tx) error { return tx.SavePhotograph(p) }); err == nil {
			t.Errorf("%s was kept", name)
		}
	}
	scale := bench.PhotoMeasure{ID: "n", PhotographID: "h", Kind: "scale", SizePX: 3, N: 1}
	if err := s.Write(t.Context(), func(tx *Tx) error { return tx.SavePhotoMeasure(scale) }); err == nil {
		t.Error("a scale without its length was kept")
	}
}
