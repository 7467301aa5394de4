package benchview

import (
	"ojime/internal/say"
	"ojime/internal/store"
)

// followUpSteps are what reviews left open until a day that has come.
func (b *Bench) followUpSteps(t *store.Tx) error {
	open, err := t.FollowUps()
	if err != nil {
		return err
	}
	for _, f := range open {
		if f.AnsweredMS != nil || f.DueDay > say.Day(b.NowMS) {
			continue
		}
		review, err := t.Review(f.ReviewID)
		if err != nil {
			return err
		}
		b.step("Answer what was left open: "+f.Question, review.Code+" wanted an answer by "+f.DueDay+".", "/verdict/"+f.ReviewID)
	}
	return nil
}
