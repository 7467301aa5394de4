package panels

import (
	"bytes"
	"context"
	_ "embed"
	"encoding/base64"
	"fmt"
	"html/template"
	"regexp"
	"slices"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work/task"
)

//go:embed guess.html
var guessText string

// guessPage is a page that needs nothing else: pictures, questions, and a file of answers to send back.
var guessPage = template.Must(template.New("guess").Parse(guessText))

// AnswersFormat is the format of a file of answers.
const AnswersFormat = "ojime-answers-1"

// AnswersFile is what a page of pictures saves for one judge. Mark is drawn on the page, so that a file counts
// once.
type AnswersFile struct {
	Format  string              `json:"format" enum:"ojime-answers-1"`
	Panel   string              `json:"panel"`
	Ballot  int64               `json:"ballot" minimum:"1"`
	Mark    string              `json:"mark" minLength:"10" maxLength:"40"`
	Answers bench.BallotAnswers `json:"answers" minItems:"1" maxItems:"100"`
	Name    string              `json:"name" required:"false" maxLength:"80"`
	Knew    *bool               `json:"knew" required:"false"`
	KnewBy  string              `json:"knew_by" required:"false" maxLength:"300"`
}

// guess is what the page is filled with.
type guess struct {
	Panel    string                  `json:"panel"`
	Format   string                  `json:"format"`
	Kind     string                  `json:"kind"`
	Arms     []string                `json:"arms"`
	Ballots  map[int64][][]string    `json:"ballots"`
	Pictures map[string]template.URL `json:"pictures"`
	Question string                  `json:"question"`
	LooksAt  string                  `json:"looks_at"`
}

// GuessPage makes a page on which anybody can answer with pictures, without this program: each who opens it is
// given one of the ballots that are not cast, and saves a file of answers to send back.
func (w *Tasks) GuessPage(ctx context.Context, id string) (name string, page []byte, err error) {
	in := guess{Format: AnswersFormat, Arms: []string{}, Ballots: map[int64][][]string{}, Pictures: map[string]template.URL{}}
	behind := map[string]string{}
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		p, err := changing(t, id, Voting, "a page to guess on is made while it takes votes")
		if err != nil {
			return err
		}
		if p.Shows != bench.ShowsPhotographs {
			return quantity.Errorf("id", "is panel %s, which shows specimens; a page can show photographs alone", p.Code)
		}
		in.Panel, in.Kind, in.Question, in.LooksAt = p.Code, p.Kind, p.Question, p.LooksAt
		all, err := t.BallotsOfPanel(p.ID)
		if err != nil {
			return err
		}
		for _, b := range all {
			if b.ReplacedMS != nil || b.CastMS != nil {
				continue
			}
			in.Ballots[b.Judge] = b.Trials
			in.Arms = shown(b, p).Arms
			for _, code := range slices.Concat(b.Trials...) {
				if behind[code], err = itemBehind(t, p.ID, code); err != nil {
					return err
				}
			}
		}
		if len(in.Ballots) == 0 {
			return quantity.Errorf("id", "is panel %s, all of whose ballots are cast", p.Code)
		}
		return nil
	})
	if err != nil {
		return "", nil, err
	}
	for code, item := range behind {
		picture, err := w.Photographs.Bare(ctx, item)
		if err != nil {
			return "", nil, err
		}
		in.Pictures[code] = template.URL("data:image/jpeg;base64," + base64.StdEncoding.EncodeToString(picture))
	}
	var out bytes.Buffer
	if err := guessPage.Execute(&out, in); err != nil {
		return "", nil, fmt.Errorf("write the page: %w", err)
	}
	return "which-is-which-" + in.Panel + ".html", out.Bytes(), nil
}

// mark is what a page draws.
var mark = regexp.MustCompile(`^[0-9a-z]{10,40}$`)

// Take takes a file of answers as one ballot: the one that it answers, or, where that was cast meanwhile, the
// next one that is free, which is then shown what the file was.
func (w *Tasks) Take(ctx context.Context, id string, f AnswersFile) (PanelSheet, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (PanelSheet, error) {
		p, err := changing(t, id, Voting, "files of answers are taken while it takes votes")
		if err != nil {
			return PanelSheet{}, err
		}
		switch {
		case f.Format != AnswersFormat:
			return PanelSheet{}, quantity.Errorf("format", "is %.40q; give a file that a page to guess on has saved (%s)", f.Format, AnswersFormat)
		case f.Panel != p.Code:
			return PanelSheet{}, quantity.Errorf("panel", "is %.20q; these are answers to another panel than %s", f.Panel, p.Code)
		case !mark.MatchString(f.Mark):
			return PanelSheet{}, quantity.Errorf("mark", "is %.40q, which no page draws; give the file as it was saved", f.Mark)
		}
		token := "file-" + f.Mark
		if _, err := t.BallotByToken(token); err == nil {
			return PanelSheet{}, fmt.Errorf("this file was taken already; it counts once: %w", bench.ErrConflict)
		} else if !task.IsMissing(err) {
			return PanelSheet{}, err
		}
		all, err := t.BallotsOfPanel(p.ID)
		if err != nil {
			return PanelSheet{}, err
		}
		b, err := freeFor(all, f.Ballot)
		if err != nil {
			return PanelSheet{}, err
		}
		if b, err = w.cast(b, p, Vote{Answers: f.Answers, Name: f.Name, Knew: f.Knew, KnewBy: f.KnewBy, Way: bench.CastByFile}); err != nil {
			return PanelSheet{}, err
		}
		if err := w.swap(t, b, token); err != nil {
			return PanelSheet{}, err
		}
		return sheetOf(t, id)
	})
}

// freeFor is the ballot that a file is cast on, with the trials that the file answers.
func freeFor(all []bench.Ballot, answered int64) (bench.Ballot, error) {
	standing := slices.DeleteFunc(slices.Clone(all), func(b bench.Ballot) bool { return b.ReplacedMS != nil })
	at := slices.IndexFunc(standing, func(b bench.Ballot) bool { return b.Judge == answered })
	if at < 0 {
		return bench.Ballot{}, quantity.Errorf("ballot", "is %d; the panel has ballots 1 to %d", answered, len(standing))
	}
	if standing[at].CastMS == nil {
		return standing[at], nil
	}
	free := slices.IndexFunc(standing, func(b bench.Ballot) bool { return b.CastMS == nil })
	if free < 0 {
		return bench.Ballot{}, fmt.Errorf("all %d ballots are cast, and how many there are was fixed when the panel was made: %w", len(standing), bench.ErrConflict)
	}
	standing[free].Trials = standing[at].Trials
	return standing[free], nil
}

// swap puts a ballot that came as a file in the place of the one that was free, under the mark of the file.
func (w *Tasks) swap(t *store.Tx, cast bench.Ballot, token string) error {
	free, err := t.BallotByToken(cast.Token)
	if err != nil {
		return err
	}
	free.ReplacedMS, free.ReplacedWhy = quantity.Ptr(w.NowMS()), "a file of answers came in its place"
	if err := t.SaveBallot(free); err != nil {
		return err
	}
	if cast.ID, err = w.NewID(); err != nil {
		return err
	}
	cast.Token = token
	return t.SaveBallot(cast)
}
