// Package mesh reads triangle meshes and measures them: bounds, surface,
// volume, shells, and what is wrong with them. It does not repair or edit.
package mesh

import (
	"bytes"
	"encoding/binary"
	"fmt"
	"math"
	"strconv"
)

// Triangle holds three corners in millimetres, each x, y, z.
type Triangle [3][3]float32

// Mesh is a list of triangles and the format it came from.
type Mesh struct {
	Format    string
	Triangles []Triangle
}

const (
	headerBytes   = 84 // 80 of free text and a 32-bit count
	triangleBytes = 50 // normal, three corners, attribute
)

// ReadSTL reads a binary or ASCII STL file. A file that is neither, ends early
// or holds corners that are not numbers is an error that names the byte, line
// or triangle. Memory stays within a small multiple of the file.
func ReadSTL(data []byte) (*Mesh, error) {
	if len(data) == 0 {
		return nil, fmt.Errorf("the file is empty; export it again")
	}
	if looksASCII(data) {
		return readASCII(data)
	}
	return readBinary(data)
}

// looksASCII tells the kinds apart by size first: many binary files also begin
// with the word solid.
func looksASCII(data []byte) bool {
	if len(data) >= headerBytes {
		count := uint64(binary.LittleEndian.Uint32(data[80:headerBytes]))
		if uint64(len(data)) == headerBytes+triangleBytes*count {
			return false
		}
	}
	return bytes.HasPrefix(bytes.TrimLeft(data[:min(len(data), 256)], " \t\r\n"), []byte("solid"))
}

func readBinary(data []byte) (*Mesh, error) {
	if len(data) < headerBytes {
		return nil, fmt.Errorf("ends at byte %d, inside the %d bytes that begin a binary STL; this is no STL file or it was cut off", len(data), headerBytes)
	}
	count := uint64(binary.LittleEndian.Uint32(data[80:headerBytes]))
	body := data[headerBytes:]
	if need := count * triangleBytes; uint64(len(body)) < need {
		return nil, fmt.Errorf("announces %d triangles but ends at byte %d, inside triangle %d; it was cut off or is no STL file",
			count, len(data), len(body)/triangleBytes+1)
	}
	if extra := uint64(len(body)) - count*triangleBytes; extra > 0 {
		return nil, fmt.Errorf("announces %d triangles but goes on for %d bytes after byte %d; its count is wrong", count, extra, headerBytes+count*triangleBytes)
	}
	if count == 0 {
		return nil, fmt.Errorf("holds no triangles; export the model again")
	}
	m := &Mesh{Format: "stl_binary", Triangles: make([]Triangle, count)}
	for i := range m.Triangles {
		at := body[i*triangleBytes+12:]
		for corner := range 3 {
			for axis := range 3 {
				v := math.Float32frombits(binary.LittleEndian.Uint32(at[corner*12+axis*4:]))
				if v != v || v > largestMM || v < -largestMM {
					return nil, fmt.Errorf("triangle %d (byte %d) has a corner that is no place in space (%v); export the model again",
						i+1, headerBytes+i*triangleBytes+12+corner*12+axis*4, v)
				}
				m.Triangles[i][corner][axis] = v
			}
		}
	}
	return m, nil
}

// largestMM bounds coordinates: a kilometre, far beyond any plate, yet small
// enough that no sum overflows.
const largestMM = 1e6

// readASCII takes vertices in threes and ignores normals, which carry nothing
// that the corners do not.
func readASCII(data []byte) (*Mesh, error) {
	m := &Mesh{Format: "stl_ascii"}
	var corners [3][3]float32
	have, inFacet := 0, false
	for line := 1; len(data) > 0; line++ {
		var text []byte
		text, data, _ = bytes.Cut(data, []byte("\n"))
		words := bytes.Fields(text)
		if len(words) == 0 {
			continue
		}
		switch string(words[0]) {
		case "solid", "outer", "endloop", "endsolid":
		case "facet":
			if inFacet {
				return nil, fmt.Errorf("line %d begins a facet inside another; export the model again", line)
			}
			inFacet, have = true, 0
		case "vertex":
			if !inFacet || have == 3 {
				return nil, fmt.Errorf("line %d has a vertex too many; a facet has three", line)
			}
			if err := parseVertex(words[1:], &corners[have]); err != nil {
				return nil, fmt.Errorf("line %d: %w", line, err)
			}
			have++
		case "endfacet":
			if !inFacet || have != 3 {
				return nil, fmt.Errorf("line %d ends a facet with %d corners; a facet has three", line, have)
			}
			m.Triangles = append(m.Triangles, corners)
			inFacet = false
		default:
			return nil, fmt.Errorf("line %d begins with %.20q, which is no word of an ASCII STL", line, words[0])
		}
	}
	if inFacet {
		return nil, fmt.Errorf("ends inside triangle %d; it was cut off", len(m.Triangles)+1)
	}
	if len(m.Triangles) == 0 {
		return nil, fmt.Errorf("holds no triangles; export the model again")
	}
	return m, nil
}

func parseVertex(words [][]byte, corner *[3]float32) error {
	if len(words) != 3 {
		return fmt.Errorf("a vertex has %d numbers; it needs three", len(words))
	}
	for axis, w := range words {
		v, err := strconv.ParseFloat(string(w), 32)
		if err != nil || v != v || math.Abs(v) > largestMM {
			return fmt.Errorf("%.20q is no place in space", w)
		}
		corner[axis] = float32(v)
	}
	return nil
}

// WriteSTL encodes triangles as a binary STL with their normals.
func WriteSTL(triangles []Triangle) []byte {
	out := make([]byte, headerBytes+triangleBytes*len(triangles))
	copy(out, "binary STL, millimetres")
	binary.LittleEndian.PutUint32(out[80:], uint32(len(triangles)))
	for i, t := range triangles {
		at := out[headerBytes+i*triangleBytes:]
		n := normal(t)
		length := math.Sqrt(n[0]*n[0] + n[1]*n[1] + n[2]*n[2])
		for axis := range 3 {
			if length > 0 {
				binary.LittleEndian.PutUint32(at[axis*4:], math.Float32bits(float32(n[axis]/length)))
			}
			for corner := range 3 {
				binary.LittleEndian.PutUint32(at[12+corner*12+axis*4:], math.Float32bits(t[corner][axis]))
			}
		}
	}
	return out
}
