/*
 * The plant of src/core/flight (panels, propulsion, battery, rigid body) in C, as a yardstick: same equations, same
 * order, same step. Reads what yardstick.ts wrote about a craft, flies it for some steps, prints the seconds it took
 * and where the craft ended.
 *
 *   gcc -O2 -o .cache/yardstick/plant tools/yardstick/plant.c -lm
 *   .cache/yardstick/plant craft.txt 400000
 */
#include <math.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <time.h>

#define MAX_PANELS 64
#define MAX_MOTORS 8
#define MAX_SURFACES 12
#define STRIDE 25
#define GRAVITY 9.80665

enum { X, Y, Z, CX, CZ, NX, NY, NZ, AREA, SLOPE, INDUCED, STALL, LIFT_MAX, TAU, ZERO_LIFT, MOMENT0, MOMENT_TAU, SX, SY, SZ, CHORD, BY_ROLL, BY_SLIP, SWEEP, HALF };

static int panels, wing_panels, tail_panels, motors, surfaces;
static double table[MAX_PANELS * STRIDE];
static int surface_of[MAX_PANELS], partner_of[MAX_SURFACES];
static double flap_share[MAX_SURFACES], turned[MAX_SURFACES];
static double wake_share[MAX_PANELS * MAX_MOTORS];
static double wing_area, body_drag, body_side, body_aft, downwash;
static double mass, ix, iy, iz;
static double arms[3 * MAX_MOTORS], axes[3 * MAX_MOTORS], senses[MAX_MOTORS];
/* Of each motor: V per rad/s, inertia, bell inertia, resistance, idle and greatest current, diameter, thrust0, power0, advance of no thrust, cooling, heat capacity. */
static double motor[MAX_MOTORS][12];
static double cells, capacity, resistance;
static double curve[11];

static double position[3], velocity[3], attitude[4] = {1, 0, 0, 0}, rates[3], air[3], force[3], moment[3];
static double deflections[MAX_SURFACES], duties[MAX_MOTORS], wake[MAX_MOTORS];
static double omega[MAX_MOTORS], thrust[MAX_MOTORS], torque[MAX_MOTORS], drive[MAX_MOTORS];
static double voltage, open_v, used, warmth[MAX_MOTORS];
static double wing_lift;

static double read_number(FILE *f) {
  double v;
  if (fscanf(f, "%lf", &v) != 1) {
    fprintf(stderr, "the craft's file is too short\n");
    exit(1);
  }
  return v;
}

static double smooth_step(double v, double low, double high) {
  double t = (v - low) / (high - low);
  t = t < 0 ? 0 : t > 1 ? 1 : t;
  return t * t * (3 - 2 * t);
}

static double flow_angle(double down, double along) {
  if (along > 0) {
    double t = down / along;
    double t2 = t * t;
    if (t2 < 0.1225) return t * (1 - t2 * (1.0 / 3 - t2 * (0.2 - t2 * (1.0 / 7 - t2 / 9))));
  }
  return atan2(down, along);
}

static void evaluate(double rho) {
  double vx0 = air[0], vy0 = air[1], vz0 = air[2], p = rates[0], q = rates[1], r = rates[2];
  double fx = 0, fy = 0, fz = 0, mx = 0, my = 0, mz = 0, lift_area = 0, epsilon = 0;
  for (int k = 0; k < surfaces; k++) {
    double own = deflections[k];
    turned[k] = partner_of[k] < 0 ? own : own - 0.5 * (1 - flap_share[k]) * (own - deflections[partner_of[k]]);
  }
  for (int i = 0; i < panels; i++) {
    const double *t = table + i * STRIDE;
    if (i == wing_panels) {
      wing_lift = lift_area / wing_area;
      epsilon = downwash * wing_lift;
    } else if (i == tail_panels) epsilon = 0;
    double x = t[X], y = t[Y], z = t[Z];
    double vx = vx0 + q * z - r * y;
    double vy = vy0 + r * x - p * z;
    double vz = vz0 + p * y - q * x;
    for (int k = 0; k < motors; k++) vx += wake_share[i * motors + k] * wake[k];
    double cx = t[CX], cz = t[CZ], nx = t[NX], ny = t[NY], nz = t[NZ];
    double along = vx * cx + vz * cz;
    double down = -(vx * nx + vy * ny + vz * nz) + epsilon * along * nz;
    double less = (1 - t[BY_SLIP]) * vy * ny + (1 - t[BY_ROLL]) * p * y * nz;
    double speed2 = along * along + down * down;
    if (speed2 < 1e-6) continue;
    double speed = sqrt(speed2), sine = down / speed, cosine = along / speed;
    double alpha = flow_angle(down, along);
    int owner = surface_of[i];
    double slope = t[SLOPE], stall = t[STALL];
    double deflection = owner >= 0 ? turned[owner] : 0;
    double shift = t[TAU] * deflection;
    double flow = alpha - t[ZERO_LIFT];
    double size = flow < 0 ? -flow : flow;
    double lift = slope * (flow + less / speed + shift), top = t[LIFT_MAX];
    if (lift > top) lift = top;
    else if (lift < -top) lift = -top;
    double drag = 0.012 + lift * lift * t[INDUCED] + 0.08 * shift * shift;
    double turn = t[MOMENT0] + t[MOMENT_TAU] * deflection;
    if (size > 0.9 * stall) {
      double s = smooth_step(size, 0.9 * stall, 0.9 * stall + 0.2);
      lift = (1 - s) * lift + s * (2 * sine * cosine + 0.5 * slope * shift * cosine * cosine);
      drag = (1 - s) * drag + s * (0.012 + 1.9 * sine * sine);
      turn = (1 - s) * turn - s * 0.25 * sine;
    }
    lift *= 1 + t[SWEEP] * vy / speed;
    double area = t[AREA];
    if (i < wing_panels) lift_area += lift * area;
    double pressure = 0.5 * rho * speed2 * area;
    double along_n = pressure * (lift * cosine + drag * sine);
    double along_c = pressure * (lift * sine - drag * cosine);
    double couple = pressure * turn * t[CHORD];
    double px = along_n * nx + along_c * cx, py = along_n * ny, pz = along_n * nz + along_c * cz;
    fx += px;
    fy += py;
    fz += pz;
    mx += y * pz - z * py + couple * t[SX];
    my += z * px - x * pz + couple * t[SY];
    mz += x * py - y * px + couple * t[SZ];
  }
  double total = sqrt(vx0 * vx0 + vy0 * vy0 + vz0 * vz0);
  double bx = -0.5 * rho * body_drag * total * vx0;
  double by = -0.5 * rho * body_side * fabs(vy0) * vy0;
  double bz = -0.5 * rho * body_side * fabs(vz0) * vz0;
  force[0] = fx + bx;
  force[1] = fy + by;
  force[2] = fz + bz;
  moment[0] = mx;
  moment[1] = my - body_aft * bz;
  moment[2] = mz + body_aft * by;
}

static double open_circuit(void) {
  double charge = 1 - used / capacity;
  charge = charge < 0 ? 0 : charge > 1 ? 1 : charge;
  double c = charge * 10;
  int k = (int)c;
  if (k > 9) k = 9;
  return cells * (curve[k] + (curve[k + 1] - curve[k]) * (c - k));
}

/* The terminals' voltage at which the motors' currents make just that voltage. */
static void share(double house) {
  double v = voltage;
  for (int go = 0; go < 12; go++) {
    double current = house, slope = 0;
    for (int i = 0; i < motors; i++) {
      const double *m = motor[i];
      double duty = duties[i];
      if (duty <= 0.01) continue;
      double back = omega[i] * m[0], push = (duty * v - back) / m[3];
      if (push <= 0) continue;
      if (push > m[5]) {
        double power = m[5] * (back + m[5] * m[3]);
        current += power / v;
        slope -= power / (v * v);
      } else {
        current += duty * push;
        slope += duty * duty / m[3];
      }
    }
    double off = open_v - resistance * current - v, steep = 1 + resistance * slope;
    double by = off / (steep > 0.3 ? steep : 1);
    v += by;
    if (v < 0.005 * open_v) v = 0.005 * open_v;
    if (by < 1e-7 && by > -1e-7) break;
  }
  voltage = v;
}

static double motor_step(int i, double duty, double axial, double rho, double dt) {
  const double *m = motor[i];
  double back = omega[i] * m[0];
  double push = (duty * voltage - back) / m[3];
  double current = 0, drawn = 0;
  int limited = 0;
  if (duty > 0.01 && push > 0) {
    if (push > m[5]) {
      limited = 1;
      current = m[5];
      drawn = m[5] * (back + m[5] * m[3]) / voltage;
    } else {
      current = push;
      drawn = current * duty;
    }
  }
  int turning = omega[i] > M_PI;
  if (turning) {
    double n = omega[i] / (2 * M_PI);
    double forward = axial > 0 ? axial : 0, d = m[6];
    double advance = axial / (n * d), head = rho * n * n, d4 = d * d * d * d, disc = M_PI * d * d / 4;
    if (advance >= 0) {
      double ct = m[7] * (1 - advance / m[9]);
      if (ct < -0.2 * m[7]) ct = -0.2 * m[7];
      thrust[i] = ct * head * d4;
    } else {
      /* Descent; vortex ring is not met in this flight. */
      double more = 1 - 0.5 * advance / m[9];
      thrust[i] = m[7] * head * d4 * (more < 1.25 ? more : 1.25);
    }
    double x = advance / m[9];
    x = x < 0 ? 0 : x > 1.3 ? 1.3 : x;
    double cp = 1 + 0.15 * x - 0.85 * x * x;
    cp = m[8] * (cp < 0.05 ? 0.05 : cp);
    torque[i] = cp * head * d4 * d / (2 * M_PI);
    if (thrust[i] > 0) {
      wake[i] = sqrt(forward * forward + 2 * thrust[i] / (rho * disc)) - forward;
      double least = 1.08 * thrust[i] * (forward + 0.5 * wake[i]) / omega[i];
      if (torque[i] < least) torque[i] = least;
    } else wake[i] = 0;
  } else thrust[i] = torque[i] = wake[i] = 0;
  double gain = current * m[0] - (turning ? m[4] * m[0] : 0) - torque[i];
  double slows = turning ? 2 * torque[i] / omega[i] : 0;
  if (current > 0 && !limited) slows += m[0] * m[0] / m[3];
  double next = omega[i] + gain * dt / (m[1] + slows * dt);
  if (next < 0) next = 0;
  drive[i] = m[1] * (next - omega[i]) / dt + torque[i];
  omega[i] = next;
  warmth[i] += (current * current * m[3] - m[10] * warmth[i]) / m[11] * dt;
  return drawn;
}

static void rotate(double w, double x, double y, double z, double *v) {
  double vx = v[0], vy = v[1], vz = v[2];
  double tx = 2 * (y * vz - z * vy), ty = 2 * (z * vx - x * vz), tz = 2 * (x * vy - y * vx);
  v[0] = vx + w * tx + y * tz - z * ty;
  v[1] = vy + w * ty + z * tx - x * tz;
  v[2] = vz + w * tz + x * ty - y * tx;
}

static double density(double h) {
  double t = 288.15 - 0.0065 * h;
  double p = 101325 * pow(t / 288.15, GRAVITY / (0.0065 * 287.05287));
  return p / (287.05287 * t);
}

static void step(long tick, double dt) {
  static double rho, panels_due;
  static double held_wake[MAX_MOTORS];
  memcpy(air, velocity, sizeof air);
  rotate(attitude[0], -attitude[1], -attitude[2], -attitude[3], air);
  if (tick % 32 == 0) rho = density(-position[2]);
  double p = rates[0], q = rates[1], r = rates[2];
  panels_due -= dt;
  if (panels_due < 0.5 * dt) {
    panels_due += dt > 0.002 ? dt : 0.002;
    memcpy(held_wake, wake, sizeof wake);
    evaluate(rho);
  }
  double fx = force[0], fy = force[1], fz = force[2], mx = moment[0], my = moment[1], mz = moment[2];
  double current = 0.9, hx = 0, hy = 0, hz = 0;
  share(0.9);
  for (int i = 0; i < motors; i++) {
    double x = arms[3 * i], y = arms[3 * i + 1], z = arms[3 * i + 2];
    double ax = axes[3 * i], ay = axes[3 * i + 1], az = axes[3 * i + 2];
    double vx = air[0] + q * z - r * y, vy = air[1] + r * x - p * z, vz = air[2] + p * y - q * x;
    double axial = vx * ax + vy * ay + vz * az;
    current += motor_step(i, duties[i], axial, rho, dt);
    double px = thrust[i] * ax, py = thrust[i] * ay, pz = thrust[i] * az;
    if (az < 0 && omega[i] > 50) {
      double drag = thrust[i] / (omega[i] * 0.5 * motor[i][6]);
      px -= drag * (vx - axial * ax);
      py -= drag * (vy - axial * ay);
      pz -= drag * (vz - axial * az);
    }
    fx += px;
    fy += py;
    fz += pz;
    double react = -senses[i] * drive[i];
    mx += y * pz - z * py + react * ax;
    my += z * px - x * pz + react * ay;
    mz += x * py - y * px + react * az;
    double h = senses[i] * motor[i][1] * omega[i];
    hx += h * ax;
    hy += h * ay;
    hz += h * az;
  }
  voltage = open_v - current * resistance;
  if (voltage < 0) voltage = 0;
  used += current * dt;
  open_v = open_circuit();
  double half = 0.5 * dt;
  double p2 = p + (mx - (q * (iz * r + hz) - r * (iy * q + hy))) / ix * half;
  double q2 = q + (my - (r * (ix * p + hx) - p * (iz * r + hz))) / iy * half;
  double r2 = r + (mz - (p * (iy * q + hy) - q * (ix * p + hx))) / iz * half;
  rates[0] = p + (mx - (q2 * (iz * r2 + hz) - r2 * (iy * q2 + hy))) / ix * dt;
  rates[1] = q + (my - (r2 * (ix * p2 + hx) - p2 * (iz * r2 + hz))) / iy * dt;
  rates[2] = r + (mz - (p2 * (iy * q2 + hy) - q2 * (ix * p2 + hx))) / iz * dt;
  double a[3] = {fx / mass, fy / mass, fz / mass};
  rotate(attitude[0], attitude[1], attitude[2], attitude[3], a);
  velocity[0] += a[0] * dt;
  velocity[1] += a[1] * dt;
  velocity[2] += (a[2] + GRAVITY) * dt;
  double w = attitude[0], x = attitude[1], y = attitude[2], z = attitude[3];
  p = p2;
  q = q2;
  r = r2;
  double h = dt / 2 * (1 + (p * p + q * q + r * r) * dt * dt / 12);
  attitude[0] = w + h * (-x * p - y * q - z * r);
  attitude[1] = x + h * (w * p + y * r - z * q);
  attitude[2] = y + h * (w * q - x * r + z * p);
  attitude[3] = z + h * (w * r + x * q - y * p);
  double n = 1 / sqrt(attitude[0] * attitude[0] + attitude[1] * attitude[1] + attitude[2] * attitude[2] + attitude[3] * attitude[3]);
  for (int i = 0; i < 4; i++) attitude[i] *= n;
  for (int i = 0; i < 3; i++) position[i] += velocity[i] * dt;
}

int main(int argc, char **argv) {
  if (argc != 3) return 2;
  FILE *f = fopen(argv[1], "r");
  if (!f) return 2;
  long steps = atol(argv[2]);
  panels = (int)read_number(f);
  wing_panels = (int)read_number(f);
  tail_panels = (int)read_number(f);
  motors = (int)read_number(f);
  surfaces = (int)read_number(f);
  for (int i = 0; i < panels * STRIDE; i++) table[i] = read_number(f);
  for (int i = 0; i < panels; i++) surface_of[i] = (int)read_number(f);
  for (int i = 0; i < surfaces; i++) partner_of[i] = (int)read_number(f);
  for (int i = 0; i < surfaces; i++) flap_share[i] = read_number(f);
  for (int i = 0; i < panels * motors; i++) wake_share[i] = read_number(f);
  double *one[] = {&wing_area, &body_drag, &body_side, &body_aft, &downwash, &mass, &ix, &iy, &iz, &cells, &capacity, &resistance};
  for (size_t i = 0; i < sizeof one / sizeof *one; i++) *one[i] = read_number(f);
  for (int i = 0; i < 11; i++) curve[i] = read_number(f);
  for (int i = 0; i < 3 * motors; i++) arms[i] = read_number(f);
  for (int i = 0; i < 3 * motors; i++) axes[i] = read_number(f);
  for (int i = 0; i < motors; i++) senses[i] = read_number(f);
  for (int i = 0; i < motors; i++)
    for (int k = 0; k < 12; k++) motor[i][k] = read_number(f);
  for (int i = 0; i < surfaces; i++) deflections[i] = read_number(f);
  for (int i = 0; i < motors; i++) duties[i] = read_number(f);
  for (int i = 0; i < 3; i++) position[i] = read_number(f);
  for (int i = 0; i < 3; i++) velocity[i] = read_number(f);
  fclose(f);
  voltage = open_v = cells * curve[10];
  struct timespec a, b;
  clock_gettime(CLOCK_MONOTONIC, &a);
  for (long k = 0; k < steps; k++) step(k, 0.001);
  clock_gettime(CLOCK_MONOTONIC, &b);
  printf("%.9f", (double)(b.tv_sec - a.tv_sec) + 1e-9 * (double)(b.tv_nsec - a.tv_nsec));
  for (int i = 0; i < 3; i++) printf(" %.12g", position[i]);
  for (int i = 0; i < 3; i++) printf(" %.12g", velocity[i]);
  printf("\n");
  return 0;
}
