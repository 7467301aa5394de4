package metrology

// ToRead is how much of what is defined on the copies of a plate was read, in readings.
type ToRead struct {
	Done int64 `json:"done"`
	Of   int64 `json:"of"`
}

// Left is how much is still to be read.
func (r ToRead) Left() int64 { return r.Of - r.Done }

// PlateToRead is what is still to be read on a plate, and which open questions ask for it.
type PlateToRead struct {
	StartedMS int64
	Left      int64
	Questions int
}

// CompareToRead orders plates for who has a caliper in hand: those that an open question
// needs and that are not read to the end first, those with more questions before the others;
// then what nobody asks for, then what is done, each the newest first.
func CompareToRead(a, b PlateToRead) int {
	rank := func(p PlateToRead) int {
		switch {
		case p.Left == 0:
			return 2
		case p.Questions == 0:
			return 1
		}
		return 0
	}
	switch {
	case rank(a) != rank(b):
		return rank(a) - rank(b)
	case rank(a) == 0 && a.Questions != b.Questions:
		return b.Questions - a.Questions
	case a.StartedMS > b.StartedMS:
		return -1
	case a.StartedMS < b.StartedMS:
		return 1
	}
	return 0
}
