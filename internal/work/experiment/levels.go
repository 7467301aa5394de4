package experiment

import (
	"ojime/internal/bench"
	"ojime/internal/core/audit"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work/kit"
	"ojime/internal/work/printing"
	"ojime/internal/work/side"
)

// level is what a print was at for one factor, in words; empty where it is not known.
type level struct{ key, name, words string }

const (
	motion     = "motion"
	motionPart = motion + "."
)

// levelsOf are one print's levels. Motion is told by its parts: a lift and a rest are
// factors of their own.
func levelsOf(t *store.Tx, reader *printing.Reader, sheet *printing.RunSheet, underTest bench.IDs) (out []level, err error) {
	conditions, err := side.ConditionsOf(t, reader, sheet)
	if err != nil {
		return nil, err
	}
	for _, factor := range underTest {
		if factor == motion {
			for _, part := range kit.MotionParts(sheet.Profile) {
				out = append(out, level{motionPart + part.Key, part.Name, part.Words})
			}
			continue
		}
		words := audit.Shown(factor, conditions)
		if words == audit.NotKnown {
			words = ""
		}
		out = append(out, level{factor, audit.Label(factor), words})
	}
	return out, nil
}

// wordsOf are the levels alone.
func wordsOf(levels []level) []string {
	out := make([]string, len(levels))
	for i, l := range levels {
		out[i] = l.words
	}
	return out
}

// plannedSheets are the plates that wait to be printed for a review, each as the print
// that it would be now.
func plannedSheets(t *store.Tx, reader *printing.Reader, review bench.Review, nowMS int64) (out []*printing.RunSheet, err error) {
	plates, err := t.UnprintedPlates()
	if err != nil {
		return nil, err
	}
	has := func(ids bench.IDs, id string) bool {
		for _, one := range ids {
			if one == id {
				return true
			}
		}
		return false
	}
	for _, plate := range plates {
		if plate.ProfileID == nil || !has(review.MachineIDs, plate.MachineID) {
			continue
		}
		profile, err := reader.Profile(*plate.ProfileID)
		if err != nil {
			return nil, err
		}
		if !has(review.ResinIDs, profile.ResinID) {
			continue
		}
		placements, err := t.PlacementsOfPlate(plate.ID)
		if err != nil {
			return nil, err
		}
		sheet, err := asPrint(reader, plate, profile, placements, nowMS)
		if err != nil {
			return nil, err
		}
		out = append(out, sheet)
	}
	return out, nil
}

// asPrint is a plate as the print that it would be now.
func asPrint(reader *printing.Reader, plate bench.Plate, profile bench.Profile, placements []bench.Placement, nowMS int64) (s *printing.RunSheet, err error) {
	s = &printing.RunSheet{}
	if s.Machine, err = reader.Machine(profile.MachineID); err != nil {
		return s, err
	}
	if s.Resin, err = reader.Resin(profile.ResinID); err != nil {
		return s, err
	}
	history, err := reader.History(profile.MachineID)
	if err != nil {
		return s, err
	}
	s.Profile, s.Condition = profile, history.At(nowMS)
	s.Run = bench.Run{MachineID: profile.MachineID, ResinID: profile.ResinID, BottleID: plate.BottleID, ProfileID: profile.ID, StartedMS: nowMS, Copies: int64(len(placements)),
		Orientation: plate.Orientation, Supports: plate.Supports, WashS: plate.WashS, CureS: plate.CureS}
	if plate.Software != "" {
		s.Run.Software = quantity.Ptr(plate.Software)
	}
	seen := map[string]bool{}
	for _, p := range placements {
		s.Specimens = append(s.Specimens, bench.Specimen{PieceID: p.PieceID, ScalePct: p.ScalePct, XMM: &p.XMM, YMM: &p.YMM, Outcome: "pending"})
		if seen[p.PieceID] {
			continue
		}
		seen[p.PieceID] = true
		piece, err := reader.Piece(p.PieceID)
		if err != nil {
			return s, err
		}
		s.Pieces = append(s.Pieces, piece)
	}
	return s, nil
}
