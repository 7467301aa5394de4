package mesh

import "math"

// topology welds identical corners and counts shells, edges of one triangle
// (open) and edges of more than two (non-manifold). Both tables are open
// addressing over flat slices: a Go map takes several times as long on a
// million triangles.
func topology(triangles []Triangle) (shells, open, nonmanifold int64) {
	ids := weld(triangles)
	parent := make([]uint32, len(ids))
	for i := range parent {
		parent[i] = uint32(i)
	}
	edges := newEdgeTable(len(triangles) * 3 / 2)
	used := make([]bool, len(ids))
	for t := range triangles {
		a, b, c := ids[3*t], ids[3*t+1], ids[3*t+2]
		used[a], used[b], used[c] = true, true, true
		join(parent, a, b)
		join(parent, b, c)
		if a == b || b == c || c == a {
			continue // a triangle welded to a line has no edges of its own
		}
		edges.add(a, b)
		edges.add(b, c)
		edges.add(c, a)
	}
	for v := range used {
		if used[v] && parent[v] == uint32(v) {
			shells++
		}
	}
	for _, n := range edges.counts {
		switch {
		case n == 1:
			open++
		case n > 2:
			nonmanifold++
		}
	}
	return shells, open, nonmanifold
}

// weld numbers corners so that identical ones share a number; the slice holds
// three a triangle, and numbers are below its length.
func weld(triangles []Triangle) []uint32 {
	corners := 3 * len(triangles)
	mask := tableSize(corners) - 1
	table := make([]uint32, mask+1) // number + 1; 0 is free
	first := make([]uint32, 0, corners/4)
	ids := make([]uint32, corners)
	at := func(i uint32) *[3]float32 { return &triangles[i/3][i%3] }
	for i := range ids {
		p := at(uint32(i))
		slot := hashPoint(p) & mask
		for {
			entry := table[slot]
			if entry == 0 {
				first = append(first, uint32(i))
				table[slot] = uint32(len(first))
				ids[i] = uint32(len(first)) - 1
				break
			}
			if *at(first[entry-1]) == *p {
				ids[i] = entry - 1
				break
			}
			slot = (slot + 1) & mask
		}
	}
	return ids
}

func hashPoint(p *[3]float32) uint64 {
	var h uint64 = 14695981039346656037
	for _, v := range p {
		// +0 turns −0 into 0, which is the same place.
		h = (h ^ uint64(math.Float32bits(v+0))) * 0x9E3779B97F4A7C15
		h ^= h >> 29
	}
	return h
}

// edgeTable counts how often each undirected edge occurs.
type edgeTable struct {
	keys   []uint64
	counts []uint8
	filled int
}

func newEdgeTable(expected int) *edgeTable {
	size := tableSize(expected)
	return &edgeTable{keys: make([]uint64, size), counts: make([]uint8, size)}
}

func (e *edgeTable) add(a, b uint32) {
	if a > b {
		a, b = b, a
	}
	if 4*e.filled > 3*len(e.keys) {
		e.grow()
	}
	slot := e.slot(uint64(a)<<32 | uint64(b))
	if e.counts[slot] == 0 {
		e.keys[slot] = uint64(a)<<32 | uint64(b)
		e.filled++
	}
	if e.counts[slot] < math.MaxUint8 {
		e.counts[slot]++
	}
}

func (e *edgeTable) slot(key uint64) uint64 {
	mask := uint64(len(e.keys) - 1)
	h := key * 0x9E3779B97F4A7C15
	slot := (h ^ h>>32) & mask
	for e.counts[slot] != 0 && e.keys[slot] != key {
		slot = (slot + 1) & mask
	}
	return slot
}

func (e *edgeTable) grow() {
	larger := newEdgeTable(2 * len(e.keys))
	for i, n := range e.counts {
		if n > 0 {
			slot := larger.slot(e.keys[i])
			larger.keys[slot], larger.counts[slot] = e.keys[i], n
			larger.filled++
		}
	}
	*e = *larger
}

// tableSize is a power of two that leaves a third free.
func tableSize(entries int) uint64 {
	size := uint64(16)
	for size*2 < uint64(entries)*3 {
		size *= 2
	}
	return size
}

func join(parent []uint32, a, b uint32) {
	a, b = root(parent, a), root(parent, b)
	if a != b {
		parent[a] = b
	}
}

func root(parent []uint32, v uint32) uint32 {
	for parent[v] != v {
		parent[v] = parent[parent[v]]
		v = parent[v]
	}
	return v
}
