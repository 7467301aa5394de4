package reviews

import (
	"context"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work/task"
)

// FollowUps lists what a review left open, the first due first.
func (w *Tasks) FollowUps(ctx context.Context, reviewID string) (out []bench.FollowUp, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		out, err = followUpsOf(t, reviewID)
		return err
	})
	return out, err
}

func followUpsOf(t *store.Tx, reviewID string) ([]bench.FollowUp, error) {
	if _, err := t.Review(reviewID); err != nil {
		return nil, err
	}
	out, err := t.FollowUpsOfReview(reviewID)
	if out == nil {
		out = []bench.FollowUp{}
	}
	return out, err
}

// FollowUp leaves a question open in a review until a day.
func (w *Tasks) FollowUp(ctx context.Context, reviewID string, f bench.FollowUp) ([]bench.FollowUp, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) ([]bench.FollowUp, error) {
		var err error
		f.Version, f.CreatedMS, f.ReviewID, f.Question, f.Answer, f.AnsweredMS = 1, w.NowMS(), reviewID, strings.TrimSpace(f.Question), "", nil
		if f.ID, err = w.NewID(); err != nil {
			return nil, err
		}
		if err := checkFollowUp(f); err != nil {
			return nil, err
		}
		if err := t.SaveFollowUp(f); err != nil {
			return nil, err
		}
		return followUpsOf(t, reviewID)
	})
}

// AnswerFollowUp says what came of a question that was left open; an empty answer leaves it open again. Another day puts it off.
func (w *Tasks) AnswerFollowUp(ctx context.Context, id string, version int64, dueDay, answer string) ([]bench.FollowUp, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) ([]bench.FollowUp, error) {
		before, err := t.FollowUp(id)
		if err != nil {
			return nil, err
		}
		if err := task.Stale(before.Version, version); err != nil {
			return nil, err
		}
		after, command := before, "answer what was left open"
		after.Version, after.DueDay, after.Answer, after.AnsweredMS = before.Version+1, dueDay, strings.TrimSpace(answer), nil
		switch {
		case after.Answer != "":
			after.AnsweredMS = quantity.Ptr(w.NowMS())
		case before.Answer != "":
			command = "leave it open again"
		default:
			command = "put off what was left open"
		}
		if err := checkFollowUp(after); err != nil {
			return nil, err
		}
		if err := w.Note(t, "follow_up", id, command, "", before, after); err != nil {
			return nil, err
		}
		if err := t.SaveFollowUp(after); err != nil {
			return nil, err
		}
		return followUpsOf(t, before.ReviewID)
	})
}

func checkFollowUp(f bench.FollowUp) error {
	if beyond := bench.Beyond(f); len(beyond) > 0 {
		return beyond[0]
	}
	return f.Check()
}
