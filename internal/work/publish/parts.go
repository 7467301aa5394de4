package publish

import (
	"context"

	"ojime/internal/bench"
	"ojime/internal/core/edition"
	"ojime/internal/store"
	"ojime/internal/work/task"
)

// WriteUpPart is a part of a write-up in its place. Own says that the reviewer put it there, Empty that the record has nothing
// for it yet, Pictures are those that stand in it.
type WriteUpPart struct {
	bench.Block
	Name  string `json:"name"`
	Own   bool   `json:"own"`
	Empty bool   `json:"empty"`
}

// Choosable is a photograph that may stand in a write-up, with what is always said of it.
type Choosable struct {
	ID   string `json:"id"`
	Code string `json:"code"`
	Says string `json:"says"`
}

// WriteUpParts are the parts of a review's write-up in their order, those within the comparison of each piece apart, and the
// photographs that may stand in it.
type WriteUpParts struct {
	Version     int64         `json:"version"`
	Parts       []WriteUpPart `json:"parts"`
	Each        []WriteUpPart `json:"each"`
	Photographs []Choosable   `json:"photographs"`
}

type partsKey struct{ review string }

// Parts are the parts of a review's write-up as they stand.
func (w *Tasks) Parts(ctx context.Context, reviewID string) (out WriteUpParts, err error) {
	return task.Recall(&w.Memory, w.Store.Changes(), partsKey{reviewID}, func() (WriteUpParts, error) {
		err = w.Store.Read(ctx, func(t *store.Tx) error {
			of, err := w.sheetOf(t, reviewID)
			if err != nil {
				return err
			}
			out, err = partsOf(of)
			return err
		})
		return out, err
	})
}

func partsOf(of sheet) (WriteUpParts, error) {
	out := WriteUpParts{Version: of.Review.Version, Parts: []WriteUpPart{}, Each: []WriteUpPart{}, Photographs: []Choosable{}}
	for _, id := range of.pictures.order {
		out.Photographs = append(out.Photographs, Choosable{id, of.pictures.of[id].Code, of.pictures.caption(id)})
	}
	own := map[string]bench.Block{}
	for _, b := range of.Review.Blocks {
		own[b.Key] = b
	}
	says := map[string]bool{}
	for _, c := range of.Contests {
		e := eachSheetOf(c, of.Currency)
		for _, p := range partsOfEach {
			text, err := partOfEach(p.Key, e)
			if err != nil {
				return out, err
			}
			says[p.Key] = says[p.Key] || text != ""
		}
	}
	for _, p := range arranged(of.Review.Blocks, true) {
		name, _ := nameOf(p.Key)
		out.Each = append(out.Each, WriteUpPart{Block: bench.Block{Key: p.Key, Out: p.Out, Pictures: bench.BlockPictures{}}, Name: name, Empty: !says[p.Key]})
	}
	for _, p := range arranged(of.Review.Blocks, false) {
		one := WriteUpPart{Block: bench.Block{Key: p.Key, Out: p.Out, Pictures: bench.BlockPictures{}}, Own: edition.Own(p.Key)}
		switch {
		case one.Own:
			one.Block = own[p.Key]
			if one.Name = one.Title; one.Name == "" {
				one.Name = "Your own words"
			}
			if one.Pictures == nil {
				one.Pictures = bench.BlockPictures{}
			}
		case p.Key == comparisons:
			one.Name, one.Empty = "The comparison of each piece", len(of.Contests) == 0
		default:
			text, err := part(p.Key, &of)
			if err != nil {
				return out, err
			}
			one.Name, _ = nameOf(p.Key)
			one.Empty = text == ""
		}
		out.Parts = append(out.Parts, one)
	}
	return out, nil
}
