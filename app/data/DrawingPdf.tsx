import type { Drawing } from "#core/procedures";
import { Circle, Line, Svg, Text } from "@react-pdf/renderer";

const INK = "#2b2a26";
const WIDTH_PT = 110;

/** A step's line drawing on paper. */
export function DrawingPdf({ drawing: { width, height, marks } }: { drawing: Drawing }) {
  return (
    <Svg viewBox={`0 0 ${width} ${height}`} style={{ width: WIDTH_PT, height: (WIDTH_PT * height) / width }}>
      {marks.map((mark, i) =>
        mark.kind === "text" ? (
          <Text key={i} x={mark.at[0]} y={mark.at[1]} style={{ fontSize: 10 }} textAnchor="middle" fill={INK}>
            {mark.text}
          </Text>
        ) : mark.kind === "circle" ? (
          <Circle
            key={i}
            cx={mark.at[0]}
            cy={mark.at[1]}
            r={mark.radius}
            fill={mark.isFilled ? INK : "none"}
            stroke={INK}
          />
        ) : (
          <Line
            key={i}
            x1={mark.from[0]}
            y1={mark.from[1]}
            x2={mark.to[0]}
            y2={mark.to[1]}
            stroke={INK}
            strokeWidth={mark.weight}
          />
        ),
      )}
    </Svg>
  );
}
