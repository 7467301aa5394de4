// Package ballots reads what blind panels showed, once they are closed.
package ballots

import (
	"encoding/json"
	"fmt"

	"ojime/internal/bench"
	"ojime/internal/core/blind"
	"ojime/internal/store"
)

// Secret is what a panel's seal holds: the seed of the deal and what stands behind each code. Its JSON text is
// what the hash of the panel is of; the seed keeps the hash from being guessed.
type Secret struct {
	Seed int64         `json:"seed"`
	Key  []blind.Coded `json:"key"`
}

// Text is the secret as it is kept and hashed.
func (s Secret) Text() (string, error) {
	text, err := json.Marshal(s)
	if err != nil {
		return "", fmt.Errorf("write the key of a panel: %w", err)
	}
	return string(text), nil
}

// SecretOf reads a secret; the text is that of Text.
func SecretOf(text string) (s Secret, err error) {
	if err = json.Unmarshal([]byte(text), &s); err != nil {
		return s, fmt.Errorf("read the key of a panel: %w", err)
	}
	return s, nil
}

// Behind is what stood behind a code, told when the panel is closed.
type Behind struct {
	Code string `json:"code"`
	// Item is the code of the specimen or photograph, ItemID its id.
	Item   string `json:"item"`
	ItemID string `json:"item_id"`
	Arm    int    `json:"arm"`
	// RunID is the print that it is of.
	RunID string `json:"run_id"`
}

// Knew is how many of the judges who were asked believed to know which was which, and by what.
type Knew struct {
	Said int64    `json:"said"`
	Of   int64    `json:"of"`
	By   []string `json:"by"`
}

// Shown is what a closed panel showed: the key, what the answers come to, and the same in sentences. Grade says
// how blind it was, and by how many.
type Shown struct {
	Panel  bench.Panel  `json:"panel"`
	Seed   int64        `json:"seed"`
	Key    []Behind     `json:"key"`
	Result blind.Result `json:"result"`
	Knew   Knew         `json:"knew"`
	// Cast are the ballots that count, by judge.
	Cast  []bench.Ballot `json:"-"`
	Grade string         `json:"grade"`
	Says  []string       `json:"says"`
}

// Of reads what a closed panel showed; of one that is not closed it is an error, and nothing is read.
func Of(t *store.Tx, p bench.Panel) (out Shown, err error) {
	if !p.Closed() {
		return out, fmt.Errorf("the key of panel %s is sealed until it closes: %w", p.Code, bench.ErrConflict)
	}
	seal, err := t.PanelSeal(p.ID)
	if err != nil {
		return out, err
	}
	secret, err := SecretOf(seal.PanelKey)
	if err != nil {
		return out, err
	}
	all, err := t.BallotsOfPanel(p.ID)
	if err != nil {
		return out, err
	}
	out = Shown{Panel: p, Seed: secret.Seed, Key: []Behind{}, Knew: Knew{By: []string{}}}
	for _, k := range secret.Key {
		row, err := behind(t, p, k)
		if err != nil {
			return out, err
		}
		out.Key = append(out.Key, row)
	}
	if out.Result, err = out.count(secret, all); err != nil {
		return out, err
	}
	out.Grade = out.grade()
	out.Says = out.says()
	return out, nil
}

// behind names the item behind a code, and the print that it is of.
func behind(t *store.Tx, p bench.Panel, k blind.Coded) (Behind, error) {
	row := Behind{Code: k.Code, ItemID: k.Item, Arm: k.Arm}
	specimen := k.Item
	if p.Shows == bench.ShowsPhotographs {
		photograph, err := t.Photograph(k.Item)
		if err != nil {
			return row, err
		}
		if row.Item = photograph.Code; photograph.SpecimenID == nil {
			return row, nil
		}
		specimen = *photograph.SpecimenID
	}
	of, err := t.SpecimenByID(specimen)
	if err != nil {
		return row, err
	}
	if row.RunID = of.RunID; row.Item == "" {
		row.Item = of.Code
	}
	return row, nil
}

// count holds the answers against the deal that was shown.
func (s *Shown) count(secret Secret, all []bench.Ballot) (blind.Result, error) {
	codes := make([][][]string, s.Panel.Judges)
	var answers []blind.Answer
	for _, b := range all {
		if b.ReplacedMS != nil {
			continue
		}
		codes[b.Judge-1] = b.Trials
		if b.CastMS == nil {
			continue
		}
		s.Cast = append(s.Cast, b)
		answers = append(answers, b.Answers.As(int(b.Judge-1))...)
		if b.Knew != nil {
			s.Knew.Of++
			if *b.Knew {
				s.Knew.Said++
				if b.KnewBy != "" {
					s.Knew.By = append(s.Knew.By, b.KnewBy)
				}
			}
		}
	}
	deal, err := blind.Again(s.Panel.Kind, secret.Key, codes)
	if err != nil {
		return blind.Result{}, err
	}
	return blind.Results(s.Panel.Input(secret.Seed), deal, answers)
}

// Closed reads what the closed panels of a review showed, in their order; those taken back are left out.
func Closed(t *store.Tx, reviewID string) (out []Shown, err error) {
	panels, err := t.PanelsOfReview(reviewID)
	if err != nil {
		return nil, err
	}
	for _, p := range panels {
		if !p.Closed() || p.TakenBackMS != nil {
			continue
		}
		shown, err := Of(t, p)
		if err != nil {
			return nil, fmt.Errorf("panel %s: %w", p.Code, err)
		}
		out = append(out, shown)
	}
	return out, nil
}
