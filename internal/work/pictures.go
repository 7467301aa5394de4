package work

import (
	"bytes"
	"context"
	"fmt"
	"image"
	pngformat "image/png"

	"ojime/internal/core/mesh"
)

func png(picture image.Image) ([]byte, error) {
	var out bytes.Buffer
	if err := pngformat.Encode(&out, picture); err != nil {
		return nil, fmt.Errorf("draw the picture: %w", err)
	}
	return out.Bytes(), nil
}

// PiecePicture is a still view of a piece as PNG.
func (w *Work) PiecePicture(ctx context.Context, pieceID string, size int64) ([]byte, error) {
	p, err := readOne(ctx, w, pieceID, pieceEntry.get)
	if err != nil {
		return nil, err
	}
	return heavily(ctx, w, nil, func() ([]byte, error) {
		m, err := w.readMesh(p)
		if err != nil {
			return nil, err
		}
		return png(mesh.Picture(m.Triangles, int(size)))
	})
}
