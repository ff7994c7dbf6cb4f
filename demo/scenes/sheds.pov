// Boat sheds with painted doors. View 1: the row, verticals converging; view 2: one door, upright; view 3: low sun. Metres.
#version 3.7;
#include "common.inc"
#include "weather.inc"
global_settings { assumed_gamma 1.0 max_trace_level 4 }
#include "sheds.inc"

#if (View = 1) Lens(<-3.2,1.25,-7.6>, <0.35,2.5,0>, 64, <0,1.8,0>, 0.02, 1.5) #end
#if (View = 2) Lens(<2.2,1.35,-4.4>, <1.72,1.95,0>, 40, <1.7,1.4,0>, 0.03, 0.6667) #end
#if (View = 3) Lens(<6.6,1.5,-5.2>, <0.6,1.75,0>, 60, <3.4,1.6,-0.6>, 0.03, 1.5) #end

#if (View < 3)
  Clouded(<0.42,0.46,0.52>, <0.86,0.88,0.90>, <0.42,0.56,0.76>, <0.90,0.92,0.93>, 0.55, 1.6)
  light_source { <-240,230,-260> rgb <1.35,1.28,1.15>*0.95 area_light <44,0,0>, <0,44,0>, 3, 3 jitter parallel point_at 0 }
  light_source { <60,260,-160> rgb <0.42,0.47,0.55> area_light <260,0,0>, <0,0,260>, 3, 3 jitter parallel point_at 0 }
#else
  Clouded(<0.36,0.36,0.45>, <0.86,0.66,0.52>, <0.46,0.52,0.66>, <1.1,0.82,0.56>, 0.62, 1)
  light_source { <330,95,-260> rgb <2.1,1.36,0.74> area_light <14,0,0>, <0,14,0>, 3, 3 jitter parallel point_at 0 }
  light_source { <-60,260,-160> rgb <0.25,0.29,0.38> area_light <260,0,0>, <0,0,260>, 3, 3 jitter parallel point_at 0 }
#end

#declare Planks = array[6] { Plank0, Plank1, Plank2, Plank3, Plank4, Plank5 }
#declare Battens = array[3] { Batten0, Batten1, Batten2 }
#declare Stones = array[7] { Stone0, Stone1, Stone2, Stone3, Stone4, Stone5, Stone6 }
#declare R = seed(21);

// One shed: its left edge at X, wide W, walls H high, ridge at H+G.
#macro Shed(X, W, H, G, Wall, Door, DoorWide, S)
  #local Many = int(W/0.195);
  #for (I, 0, Many-1)
    #local PX = X + (I+0.5)*W/Many;
    #local Top = H + G*(1-abs(PX-X-W/2)/(W/2));
    #local Paint = Wall*(0.86+0.24*rand(R));
    intersection {
      object { Planks[mod(I*5+S,6)] rotate x*90 rotate z*90 scale <W/Many/0.196,1,1> translate <PX+0.004*(rand(R)-0.5),1.9,0.012*(rand(R)-0.5)> }
      box { <PX-0.3,-0.2-0.05*rand(R),-0.3>, <PX+0.3,Top,0.3> }
      texture { WallPaint(Paint, I+S*20) }
    }
  #end
  prism { 0.03, 0.05, 4, <X,H>, <X+W,H>, <X+W/2,H+G>, <X,H> rotate x*-90 scale <1,1,-1> pigment { rgb <0.02,0.018,0.016> } }
  box { <X,-0.3,0.03>, <X+W,H,5> pigment { rgb <0.02,0.018,0.016> } }
  // Boards along the gable, felt above.
  #local Run = sqrt(G*G+W*W/4); #local Steep = degrees(atan2(G, W/2));
  #for (Side, -1, 1, 2)
    object { Battens[1] texture { WallPaint(Wall*0.8+0.06, S+3) } scale <(Run+0.22)/3.2,1.5,1.6> rotate x*90 rotate z*Steep translate <-(Run+0.1)/2*cos(radians(Steep)),-(Run+0.1)/2*sin(radians(Steep)),0> scale <-Side,1,1> translate <X+W/2,H+G+0.03,-0.07> }
    object { Felt scale <1,1,2.6> rotate y*90 scale <1,1,1.0> translate <0,0,0> scale <(Run+0.2)/2.6,1,1.1> rotate z*-Steep scale <Side,1,1> translate <X+W/2,H+G+0.075,1.0>
      texture { pigment { granite scale 0.5 color_map { [0.2 rgb <0.045,0.048,0.05>] [0.8 rgb <0.11,0.112,0.115>] } } normal { granite 0.3 scale 0.1 } } }
  #end
  // The door: two leaves, ledges, hinges, a hasp.
  #local DX = X + W/2; #local DH = 2.15; #local Boards = int(DoorWide/0.17);
  box { <DX-DoorWide/2-0.02,-0.05,-0.03>, <DX+DoorWide/2+0.02,DH+0.02,0.02> pigment { rgb 0.015 } }
  #for (I, 0, Boards-1)
    #local PX = DX - DoorWide/2 + (I+0.5)*DoorWide/Boards;
    #declare Boarded = Painted(Door*(0.9+0.2*rand(R)), 0.22, I+S*11, 0.34)
    intersection {
      object { Planks[mod(I*7+S,6)] rotate x*90 rotate z*90 scale <DoorWide/Boards/0.194,1,1> translate <PX,1.4,-0.05+0.006*(rand(R)-0.5)> }
      box { <PX-0.2,0.02+0.03*rand(R),-0.3>, <PX+0.2,DH-0.015*rand(R),0.3> }
      texture { Boarded rotate z*90 }
    }
  #end
  #for (J, 0, 1)
    object { Battens[J] Painted(Door*0.92, 0.2, J+S*3, 0.3) scale <DoorWide*0.96/3.2,1,1.2> rotate x*90 translate <DX,0.42+J*1.32,-0.082> }
    #for (Side, -1, 1, 2)
      object { Hinge scale <1.1,1,1> rotate x*90 translate <DX+Side*(DoorWide/2-0.26),0.42+J*1.32,-0.118> texture { pigment { granite scale 0.05 color_map { [0.2 rgb <0.06,0.03,0.018>] [0.8 rgb <0.22,0.10,0.045>] } } normal { granite 0.4 scale 0.03 } } }
    #end
  #end
  box { <DX-0.012,0.03,-0.075>, <DX+0.012,DH-0.02,-0.03> pigment { rgb <0.012,0.01,0.01> } }
  box { <DX-0.10,1.02,-0.125>, <DX+0.10,1.06,-0.10> pigment { rgb <0.05,0.045,0.04> } finish { specular 0.4 roughness 0.02 } }
  // Frame.
  #for (Side, -1, 1, 2) object { Battens[2] Painted(<0.58,0.56,0.50>, 0.16, S+Side+4, 0.34) scale <2.25/3.2,1,1> rotate x*90 rotate z*90 translate <DX+Side*(DoorWide/2+0.06),1.08,-0.06> } #end
  object { Battens[0] Painted(<0.58,0.56,0.50>, 0.16, S+9, 0.34) scale <(DoorWide+0.24)/3.2,1,1> rotate x*90 translate <DX,DH+0.06,-0.062> }
#end
#macro WallPaint(Tint, S)
  pigment { pigment_pattern { average pigment_map {
      [1.2 granite scale <0.03,0.9,0.03> translate S*0.7 color_map {[0 rgb 0][1 rgb 1]}]
      [1 bozo scale <0.2,0.5,0.2> turbulence 0.5 translate S color_map {[0 rgb 0][1 rgb 1]}] } }
    color_map { [0.2 rgb Tint*0.42] [0.36 rgb Tint*0.78] [0.6 rgb Tint] [0.85 rgb Tint*1.15] } }
  normal { granite 0.4 scale <0.02,0.8,0.02> translate S }
  finish { diffuse 0.8 }
#end
#declare Tar = <0.085,0.08,0.075>; #declare Silver = <0.30,0.285,0.26>; #declare Brown = <0.17,0.12,0.085>; #declare Chalk = <0.50,0.49,0.45>;
Shed(-6.6, 3.1, 2.45, 1.25, Silver, <0.40,0.075,0.05>, 1.7, 1)
Shed(-3.3, 2.9, 2.35, 1.2, Tar, <0.46,0.36,0.14>, 1.6, 2)
Shed(-0.2, 3.5, 2.55, 1.4, Chalk, <0.07,0.19,0.235>, 1.9, 3)
Shed(3.6, 3.0, 2.4, 1.2, Brown, <0.13,0.205,0.125>, 1.65, 4)
Shed(6.9, 3.2, 2.5, 1.3, Silver*0.9, <0.10,0.11,0.26>, 1.7, 5)
Shed(-10.0, 3.2, 2.4, 1.25, Brown*0.9, <0.30,0.30,0.28>, 1.7, 6)

#macro StoneTint() #local K = rand(R); #if (K < 0.5) (<0.24,0.215,0.19>*(0.5+0.9*rand(R))) #else #if (K < 0.8) (<0.30,0.24,0.175>*(0.5+0.9*rand(R))) #else (<0.42,0.40,0.37>*(0.6+0.6*rand(R))) #end #end #end
object { Beach pigment { granite scale 0.3 color_map { [0.2 rgb <0.10,0.09,0.075>] [0.8 rgb <0.24,0.21,0.18>] } } normal { granite 0.5 scale 0.1 } }
#for (I, 1, 15000)
  #local Z = -8.2 + 8.4*pow(rand(R), 0.8); #local X = -11 + 21*rand(R);
  #local Big = 0.016 + 0.05*pow(rand(R), 4);
  object { Stones[int(rand(R)*6.99)] scale Big*1.1 rotate <30*rand(R),360*rand(R),0> translate <X,-0.03-max(0,-Z-0.5)*0.055+0.014,Z> pigment { rgb StoneTint() } normal { granite 0.15 scale 0.01 } finish { diffuse 0.8 } }
#end
plane { y, -0.8 pigment { rgb <0.12,0.11,0.09> } }
