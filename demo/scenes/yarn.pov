// Baskets of dyed wool on the bench of the store. Centimetres.
#version 3.7;
#include "common.inc"
global_settings { assumed_gamma 1.0 max_trace_level 4 }
#include "yarn.inc"

#if (View = 1) Lens(<2,47,-108>, <0,8.8,-2>, 42, <0,11,-9>, 1.8, 1.5) #end

light_source { <-150,120,-60> rgb <16,16.4,17>*1.0 area_light <0,90,0>, <60,0,80>, 3, 3 jitter fade_distance 45 fade_power 2 }
RoomLight(<0.36,0.35,0.33>, 80)
box { <-400,-100,-330>, <400,300,-320> pigment { rgb <0.30,0.28,0.25> } no_image }

#macro Bench(M, S) object { M Wood(<0.30,0.22,0.15>, <0.13,0.09,0.06>, 14, S) } #end
Bench(Bench0, 2.2) Bench(Bench1, 3.7) Bench(Bench2, 5.4) Bench(Bench3, 7.6)
#declare Planks = array[4] { Plank0, Plank1, Plank2, Plank3 }
#for (K, 0, 10)
  object { Planks[mod(K,4)] Painted(<0.46,0.49,0.47>, 16, K+1, 0.22) rotate x*90 rotate z*(90+180*mod(K,2)) translate <(K-5)*18,40,36> }
#end

#declare R = seed(5);
#declare Balls = array[3] { Ball0, Ball1, Ball2 }
#macro Wool(Tint)
  texture { pigment { granite scale 1.3 color_map { [0.15 rgb Tint*0.55] [0.5 rgb Tint] [0.85 rgb Tint*1.2+0.015] } }
    normal { granite 0.5 scale 0.4 } finish { diffuse 0.78, 0.1 } }
#end
#macro Put(X, Y, Z, Size, Tint)
  union {
    object { Balls[int(rand(R)*2.99)] Wool(Tint) }
    sphere { 0, 3.5 Wool(Tint*0.55) }
    object { Fuzz Wool(Tint*1.15+0.02) no_shadow }
    scale Size scale <1,0.94,1> rotate <360*rand(R),360*rand(R),30*rand(R)> translate <X,Y,Z>
  }
#end
#declare Crimson = <0.33,0.025,0.035>; #declare Rust = <0.42,0.11,0.03>; #declare Ochre = <0.52,0.28,0.04>; #declare Straw = <0.62,0.50,0.18>;
#declare Moss = <0.16,0.20,0.05>; #declare Leaf = <0.06,0.20,0.07>; #declare Teal = <0.03,0.20,0.21>; #declare Sky = <0.20,0.36,0.50>;
#declare Indigo = <0.03,0.055,0.20>; #declare Plum = <0.14,0.035,0.14>; #declare Heather = <0.34,0.22,0.40>; #declare Rose = <0.52,0.20,0.23>;
#declare Cream = <0.66,0.60,0.48>; #declare Grey = <0.20,0.19,0.18>;

// Left: warm. Middle: greens and blues. Right: violets and pale.
#macro Woven(Rods, Uprights, X, Z, S)
  union {
    object { Rods texture { pigment { granite scale <0.7,0.7,0.7> translate S color_map { [0.15 rgb <0.20,0.115,0.055>] [0.5 rgb <0.40,0.26,0.13>] [0.85 rgb <0.52,0.37,0.21>] } } normal { granite 0.25 scale 0.5 } finish { diffuse 0.75 specular 0.12 roughness 0.05 } } }
    object { Uprights pigment { rgb <0.24,0.15,0.08> } }
    disc { <0,0.4,0>, y, 11 pigment { rgb <0.12,0.08,0.045> } }
    rotate y*S*50 translate <X,0,Z>
  }
#end
Woven(Rods0, Uprights0, -34, 3, 1) Woven(Rods1, Uprights1, -2, 8, 2) Woven(Rods2, Uprights2, 31, 2, 3)

Put(-40,5,6,1.1,Cream) Put(-29,5,5,1.1,Rust) Put(-35,5,-4,1.1,Ochre)
Put(-41.5,12.5,3.5,1.15,Crimson) Put(-33.5,12.9,8.5,1.1,Straw) Put(-26.8,12.3,4.5,1.12,Rose) Put(-35.6,12.8,-4.2,1.16,Rust) Put(-27.6,12,-4.6,1.0,Ochre) Put(-34.2,19,1.8,1.14,Crimson*1.3)
Put(-7,4,9,1,Leaf) Put(3,4,9,1,Leaf) Put(-2,4,3,1,Teal)
Put(-8,11.5,8,1.1,Moss) Put(0,11.6,13.5,1.05,Leaf) Put(5.2,11.3,7,1.1,Teal) Put(-2.2,11.6,1.6,1.1,Sky) Put(-1.2,18,8,1.12,Indigo*1.2)
Put(25,4,3,1,Plum) Put(36,4,3,1,Plum) Put(31,4,-4,1,Grey)
Put(23.5,10.6,3,1.15,Heather) Put(31.8,11,8.3,1.1,Plum*1.2) Put(38.8,10.5,3,1.12,Cream) Put(27.8,10.6,-5,1.05,Rose) Put(35.4,10.4,-5.3,1.05,Indigo) Put(31.6,16.8,0.8,1.1,Grey)
// Loose on the bench.
Put(-14.6,3.85,-15,0.98,Teal) Put(-5.6,4.1,-17.5,1.06,Crimson) Put(4.6,3.6,-14.4,0.93,Straw) Put(13.2,4.2,-12.3,1.08,Sky) Put(49,4.4,-9,1.12,Moss) Put(-54,4.3,-6,1.1,Heather)
object { Tail Wool(Crimson) }
