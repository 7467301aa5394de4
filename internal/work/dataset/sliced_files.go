package dataset

import (
	"fmt"
	"strconv"
	"strings"

	"ojime/internal/say"
	"ojime/internal/store"
	"ojime/internal/work/printing"
	"ojime/internal/work/sliced"
)

// SlicedFile is a sliced file that still holds, beside the print or the settings Of that it belongs to.
type SlicedFile struct {
	Of string
	sliced.SlicedSheet
}

// slicedOf are the sliced files of prints and of their settings, each once.
func slicedOf(t *store.Tx, sheets []*printing.RunSheet) (out []SlicedFile, err error) {
	add := func(of string, files []sliced.SlicedSheet, err error) error {
		for _, f := range files {
			if f.TakenBackMS == nil {
				out = append(out, SlicedFile{of, f})
			}
		}
		return err
	}
	has, err := t.SlicedOwners()
	if err != nil {
		return nil, err
	}
	for _, s := range sheets {
		if has[s.Run.ID] {
			files, err := sliced.ReadSlicedOfRun(t, s.Run.ID)
			if err := add(s.Run.Code, files, err); err != nil {
				return nil, err
			}
		}
		if has[s.Profile.ID] {
			has[s.Profile.ID] = false // told once
			files, err := sliced.ReadSlicedOfProfile(t, s.Profile.ID)
			if err := add(s.Settings, files, err); err != nil {
				return nil, err
			}
		}
	}
	return out, nil
}

// Line is a sliced file in the write-up: whose it is, its hash, what it comes to, and each value in
// which it differs from the record.
func (s SlicedFile) Line() string {
	out := fmt.Sprintf("%s: %s (SHA-256 %s). %s", s.Of, s.Name, s.FileSHA256, s.Says)
	var differ []string
	for _, c := range s.Compared {
		if c.Agrees != nil && !*c.Agrees {
			differ = append(differ, fmt.Sprintf("%s %s, on record %s", c.What, c.Stack, c.OnRecord))
		}
	}
	if s.Note != "" {
		out += " " + strings.TrimSuffix(s.Note, ".") + "."
	}
	if len(differ) > 0 {
		out += " In the file: " + strings.Join(differ, "; ") + "."
	}
	return out
}

func slicedRows(of Source) [][]string {
	out := [][]string{{"of", "file", "sha256", "bytes", "read", "layers", "layer_um", "width_px", "height_px", "height_mm", "volume_ml", "largest_mm2", "largest_layer", "grey_pct", "layers_with_islands", "estimate_s", "differs", "missing_numbers", "note"}}
	for _, s := range of.Sliced {
		row := []string{s.Of, s.Name, s.FileSHA256, strconv.FormatInt(s.Bytes, 10), say.Instant(s.AtMS), strconv.Itoa(s.Layers), num(&s.LayerUM), strconv.FormatInt(s.WidthPX, 10), strconv.FormatInt(s.HeightPX, 10)}
		if v := s.Solid; v != nil {
			row = append(row, num(&v.HeightMM), num(&v.VolumeML), num(&v.LargestMM2), strconv.Itoa(v.LargestLayer), num(&v.GreyPct), strconv.Itoa(len(v.Islands)))
		} else {
			row = append(row, "", "", "", "", "", "")
		}
		var differ []string
		for _, c := range s.Compared {
			if c.Agrees != nil && !*c.Agrees {
				differ = append(differ, c.What)
			}
		}
		out = append(out, append(row, num(s.TotalS), strings.Join(differ, "; "), strconv.Itoa(len(s.MissingNumbers)), s.Note))
	}
	return out
}
