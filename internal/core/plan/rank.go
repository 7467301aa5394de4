package plan

import "math/bits"

// field is the prime 2^61 − 1: ranks of matrices of small whole numbers are counted
// exactly in its arithmetic, with no tolerance to choose.
const field = 1<<61 - 1

func mulMod(a, b uint64) uint64 {
	high, low := bits.Mul64(a, b)
	sum := low&field + (low>>61 | high<<3)
	if sum >= field {
		sum -= field
	}
	return sum
}

func subMod(a, b uint64) uint64 {
	if a >= b {
		return a - b
	}
	return a + field - b
}

// inverse is by Fermat: a^(p−2).
func inverse(a uint64) uint64 {
	out := uint64(1)
	for e := uint64(field - 2); e > 0; e >>= 1 {
		if e&1 == 1 {
			out = mulMod(out, a)
		}
		a = mulMod(a, a)
	}
	return out
}

func inField(row []int) []uint64 {
	out := make([]uint64, len(row))
	for i, v := range row {
		if out[i] = uint64(v); v < 0 {
			out[i] = field - uint64(-v)
		}
	}
	return out
}

// basis is a row space in reduced echelon form: each row has a one at its pivot, where
// all others have none.
type basis struct {
	columns int
	rows    [][]uint64
	pivot   []int
}

// take adds a row where it raises the rank, and says whether it did. The row is
// changed.
func (b *basis) take(row []uint64) bool {
	for i, r := range b.rows {
		reduce(row, r, b.pivot[i])
	}
	at := 0
	for at < b.columns && row[at] == 0 {
		at++
	}
	if at == b.columns {
		return false
	}
	one := inverse(row[at])
	for i := at; i < b.columns; i++ {
		row[i] = mulMod(row[i], one)
	}
	for _, r := range b.rows {
		reduce(r, row, at)
	}
	b.rows, b.pivot = append(b.rows, row), append(b.pivot, at)
	return true
}

// reduce takes so much of another row that nothing is left at a column.
func reduce(row, of []uint64, at int) {
	much := row[at]
	if much == 0 {
		return
	}
	for i, v := range of {
		if v != 0 {
			row[i] = subMod(row[i], mulMod(much, v))
		}
	}
}

// kernel is what all rows are blind to: vectors by which the columns add up to nothing.
func (b *basis) kernel() (out [][]uint64) {
	pivots := make([]bool, b.columns)
	for _, p := range b.pivot {
		pivots[p] = true
	}
	for free := range b.columns {
		if pivots[free] {
			continue
		}
		v := make([]uint64, b.columns)
		v[free] = 1
		for i, r := range b.rows {
			v[b.pivot[i]] = subMod(0, r[free])
		}
		out = append(out, v)
	}
	return out
}

// blindWithout is the part of a kernel that needs none of some columns: what stays blind when
// they are gone.
func blindWithout(kernel [][]uint64, from, until int) [][]uint64 {
	rest := make([][]uint64, len(kernel))
	for i, v := range kernel {
		rest[i] = append([]uint64{}, v...)
	}
	for column := from; column < until; column++ {
		at := -1
		for i, v := range rest {
			if v[column] != 0 {
				at = i
				break
			}
		}
		if at < 0 {
			continue
		}
		v, one := rest[at], inverse(rest[at][column])
		for i := range v {
			v[i] = mulMod(v[i], one)
		}
		rest = append(rest[:at], rest[at+1:]...)
		for _, other := range rest {
			reduce(other, v, column)
		}
	}
	return rest
}

// touches reports a kernel that needs any of some columns: they cannot be told apart
// from the others.
func touches(kernel [][]uint64, from, until int) bool {
	for _, v := range kernel {
		for _, x := range v[from:until] {
			if x != 0 {
				return true
			}
		}
	}
	return false
}
