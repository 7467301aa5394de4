package panels

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work/ballots"
	"ojime/internal/work/task"
)

// Coder is who puts the codes on: a name, and whether it is the reviewer or an assistant.
type Coder struct {
	Name string `json:"name" minLength:"1" maxLength:"80"`
	As   string `json:"as" enum:"reviewer,assistant"`
}

// CodeFor is the code that goes on a specimen, told while the panel is being coded and never again.
type CodeFor struct {
	Specimen string `json:"specimen"`
	Code     string `json:"code"`
	Left     int64  `json:"left"`
}

// Code tells the code of one specimen of a panel, by its label, to who puts the codes on: all in one sitting, by
// one person, who knows from then on and cannot vote.
func (w *Tasks) Code(ctx context.Context, id, label string, by Coder) (out CodeFor, err error) {
	if by.Name = strings.TrimSpace(by.Name); by.Name == "" {
		return out, quantity.Errorf("name", "is missing; say who puts the codes on, since they cannot vote")
	}
	// What is answered to a command is kept; the code is not part of that answer.
	if _, err = task.Keep(ctx, w.Base, func(t *store.Tx) (bool, error) {
		p, specimen, err := toBeCoded(t, id, label)
		if err != nil {
			return false, err
		}
		if p.Coder != "" && (!bench.SameName(p.Coder, by.Name) || p.CodedBy != by.As) {
			return false, quantity.Errorf("name", "is %s (%s), and %s (%s) began to put codes on; one person does it, in one sitting", by.Name, by.As, p.Coder, p.CodedBy)
		}
		p.Coder, p.CodedBy = by.Name, by.As
		if !slices.Contains(p.Coded, specimen.ID) {
			p.Coded = append(p.Coded, specimen.ID)
		}
		if _, err := codeOf(t, p.ID, specimen.ID); err != nil {
			return false, err
		}
		p.Version++
		return true, t.SavePanel(p)
	}); err != nil {
		return out, err
	}
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		p, specimen, err := toBeCoded(t, id, label)
		if err != nil {
			return err
		}
		out.Specimen, out.Left = specimen.Code, int64(len(p.Items())-len(p.Coded))
		out.Code, err = codeOf(t, p.ID, specimen.ID)
		return err
	})
	return out, err
}

// toBeCoded is a panel that is being coded, with the specimen of a label that it holds.
func toBeCoded(t *store.Tx, id, label string) (p bench.Panel, s bench.Specimen, err error) {
	if p, err = changing(t, id, Coding, "its codes are told no more"); err != nil {
		return p, s, err
	}
	if p.Shows != bench.ShowsSpecimens {
		return p, s, quantity.Errorf("specimen", "needs no code: panel %s shows photographs, which the program codes", p.Code)
	}
	label = strings.ToUpper(strings.TrimSpace(label))
	s, err = t.SpecimenByCode(label)
	if task.IsMissing(err) || err == nil && !p.Holds(s.ID) {
		return p, s, quantity.Errorf("specimen", "%.40q is not among those of panel %s; scan the label of one that is listed", label, p.Code)
	}
	return p, s, err
}

func codeOf(t *store.Tx, panelID, itemID string) (string, error) {
	seal, err := t.PanelSeal(panelID)
	if err != nil {
		return "", err
	}
	if seal.PanelKey == "" {
		return "", fmt.Errorf("the key of this panel is in the record that it came from; put the codes on there: %w", bench.ErrConflict)
	}
	secret, err := ballots.SecretOf(seal.PanelKey)
	if err != nil {
		return "", err
	}
	for _, k := range secret.Key {
		if k.Item == itemID {
			return k.Code, nil
		}
	}
	return "", fmt.Errorf("the code of %s: %w", itemID, bench.ErrNotFound)
}

// Seal ends the coding: from now on nothing tells an arm until the panel closes, and judges can vote.
func (w *Tasks) Seal(ctx context.Context, id string) (PanelSheet, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (PanelSheet, error) {
		p, err := changing(t, id, Coding, "it is sealed once")
		if err != nil {
			return PanelSheet{}, err
		}
		if left := len(p.Items()) - len(p.Coded); p.Shows == bench.ShowsSpecimens && left > 0 {
			return PanelSheet{}, quantity.Errorf("coded", "leaves %d without a code; put theirs on first", left)
		}
		tells, err := tellsOf(t, p)
		if err != nil {
			return PanelSheet{}, err
		}
		before := p
		p.Tells, p.SealedMS = tells, quantity.Ptr(w.NowMS())
		if err := w.put(t, before, p, "seal the panel", ""); err != nil {
			return PanelSheet{}, err
		}
		return sheetOf(t, id)
	})
}
