package panels

import (
	"context"
	"fmt"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/core/viewing"
	"ojime/internal/store"
	"ojime/internal/work/reviews"
)

// Choices are what a panel of a review can be made of: its set-ups, one a piece, with the copies that came out
// and the photographs of them.
type Choices struct {
	Arms []ArmChoice `json:"arms"`
}

// ArmChoice is a set-up with what can be shown of it.
type ArmChoice struct {
	ProfileID   string        `json:"profile_id"`
	Since       string        `json:"since"`
	PieceID     string        `json:"piece_id"`
	Piece       string        `json:"piece"`
	Label       string        `json:"label"`
	Specimens   []ItemChoice  `json:"specimens"`
	Photographs []PhotoChoice `json:"photographs"`
}

// ItemChoice is a copy that can be shown: the print it is of, the stage of its surface, and what is on record
// against it, in words.
type ItemChoice struct {
	ID      string `json:"id"`
	Code    string `json:"code"`
	Run     string `json:"run"`
	Stage   string `json:"stage"`
	Against string `json:"against"`
}

// PhotoChoice is a photograph that can be shown, and how it was taken.
type PhotoChoice struct {
	ID       string `json:"id"`
	Code     string `json:"code"`
	Specimen string `json:"specimen"`
	Stage    string `json:"stage"`
	Station  string `json:"station"`
	Light    string `json:"light"`
}

// mostChoices is how many copies and photographs of a set-up are offered: more than a panel takes.
const mostChoices = 100

// Choices lists what a panel of a review can be made of.
func (w *Tasks) Choices(ctx context.Context, reviewID string) (out Choices, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		out = Choices{Arms: []ArmChoice{}}
		review, err := t.Review(reviewID)
		if err != nil {
			return err
		}
		setups, err := reviews.SetUps(t, review)
		if err != nil {
			return err
		}
		for _, s := range setups {
			if s.ReferenceID != "" {
				continue // it has no copies of its own on record
			}
			arm, err := choice(t, s)
			if err != nil {
				return err
			}
			out.Arms = append(out.Arms, arm)
		}
		return nil
	})
	return out, err
}

func choice(t *store.Tx, s reviews.SetUp) (ArmChoice, error) {
	out := ArmChoice{ProfileID: s.ProfileID, Since: s.Since, PieceID: s.PieceID, Piece: s.Piece, Label: s.Label, Specimens: []ItemChoice{}, Photographs: []PhotoChoice{}}
	of, err := t.SpecimensOfRuns(s.RunIDs)
	if err != nil {
		return out, err
	}
	pictures, err := t.PhotographsOfRuns(s.RunIDs)
	if err != nil {
		return out, err
	}
	runs, err := t.RunsByID(s.RunIDs)
	if err != nil {
		return out, err
	}
	stages, err := t.StagesOfRuns(s.RunIDs)
	if err != nil {
		return out, err
	}
	for n, runID := range s.RunIDs {
		names := map[string]string{}
		for _, specimen := range of[runID] {
			if specimen.PieceID != s.PieceID || specimen.Outcome == "pending" || specimen.Outcome == "lost" {
				continue
			}
			names[specimen.ID] = specimen.Code
			if len(out.Specimens) < mostChoices {
				out.Specimens = append(out.Specimens, ItemChoice{specimen.ID, specimen.Code, s.Runs[n], stageNow(runs[runID], stages[runID], specimen.ID), against(specimen)})
			}
		}
		for _, p := range pictures[runID] {
			if p.TakenBackMS == nil && p.SpecimenID != nil && names[*p.SpecimenID] != "" && len(out.Photographs) < mostChoices {
				out.Photographs = append(out.Photographs, PhotoChoice{p.ID, p.Code, names[*p.SpecimenID], p.Stage, p.View().StationWords(), p.Light})
			}
		}
	}
	return out, nil
}

// armsOf names the arms of a panel as their review does, and checks that what they show is of them.
func armsOf(t *store.Tx, review bench.Review, p bench.Panel) (bench.PanelArms, error) {
	setups, err := reviews.SetUps(t, review)
	if err != nil {
		return nil, err
	}
	out := make(bench.PanelArms, len(p.Arms))
	for i, arm := range p.Arms {
		if arm.PieceID != p.Arms[0].PieceID {
			return nil, quantity.Errorf(fmt.Sprintf("arms[%d].piece_id", i), "is of another piece than the first; set copies of one piece against each other")
		}
		if err := checkArm(t, setups, p.Shows, i, &arm); err != nil {
			return nil, err
		}
		out[i] = arm
	}
	return out, nil
}

func stageNow(r bench.Run, stages []bench.SpecimenStage, specimenID string) string {
	return viewing.StageAt(bench.ReachedBy(r, stages, specimenID), lastInstant)
}
